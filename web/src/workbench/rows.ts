import { pathTo, type Part } from '@tinfold/core/model';

/** A row of the parts list. */
export interface Row {
  readonly part: Part;
  readonly depth: number;
  /** How many copies this row stands for. */
  readonly copies: number;
}

/** The rows in document order: of a pattern's copies only the first, unless the pattern is opened. */
export function rowsOf(root: Part, opened: ReadonlySet<string>): Row[] {
  const rows: Row[] = [];
  const visit = (part: Part, depth: number, copies: number): void => {
    rows.push({ part, depth, copies });
    const seen = new Set<string>();
    for (const child of part.children) {
      const { pattern } = child;
      if (pattern === undefined || opened.has(pattern)) {
        visit(child, depth + 1, 1);
        continue;
      }
      if (seen.has(pattern)) continue;
      seen.add(pattern);
      visit(child, depth + 1, part.children.filter((c) => c.pattern === pattern).length);
    }
  };
  visit(root, 0, 1);
  return rows;
}

/** The part and, where it lies in a closed pattern, its counterparts in the other copies. */
export function counterparts(root: Part, id: string, opened: ReadonlySet<string>): Part[] {
  const path = pathTo(root, id);
  let found = path.slice(0, 1);
  for (const [i, step] of path.entries()) {
    const parent = path[i - 1];
    if (!parent) continue;
    const index = parent.children.indexOf(step);
    const { pattern } = step;
    const whole = pattern !== undefined && !opened.has(pattern);
    found = found.flatMap((p) => {
      const same = whole
        ? p.children.filter((c) => c.pattern === pattern)
        : p.children.slice(index, index + 1);
      return same.filter((c) => c.kind === step.kind);
    });
  }
  return found;
}

/** The row that shows a part: its own, or that of the first copy of its closed pattern. */
export function shownRow(root: Part, id: string, rows: readonly Row[], opened: ReadonlySet<string>): number {
  const ids = new Set(counterparts(root, id, opened).map((p) => p.id));
  return rows.findIndex((r) => ids.has(r.part.id));
}
