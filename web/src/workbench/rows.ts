import { pathTo, type Part } from '@tinfold/core/model';
import type { Difference } from './differences';

/** A row of the parts list. */
export interface Row {
  readonly part: Part;
  readonly depth: number;
  /** How many copies this row stands for. */
  readonly copies: number;
  /** Whether its parts are folded away. */
  readonly folded: boolean;
}

/**
 * The rows in document order, without what is in a folded part: of a pattern's copies only the first, unless the pattern is
 * opened.
 */
export function rowsOf(
  root: Part,
  opened: ReadonlySet<string>,
  folded: ReadonlySet<string> = new Set(),
): Row[] {
  const rows: Row[] = [];
  const visit = (part: Part, depth: number, copies: number): void => {
    const isFolded = folded.has(part.id) && part.children.length > 0;
    rows.push({ part, depth, copies, folded: isFolded });
    if (isFolded) return;
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

/** No pattern is opened. */
const CLOSED: ReadonlySet<string> = new Set();

/** The ids of a part and its counterparts: what is done to one copy of a pattern is done to all. */
export const copiesOf = (root: Part, id: string): string[] => counterparts(root, id, CLOSED).map((p) => p.id);

/** The row that shows a part: its own, or that of the first copy of its closed pattern. */
export function shownRow(root: Part, id: string, rows: readonly Row[], opened: ReadonlySet<string>): number {
  const ids = new Set(counterparts(root, id, opened).map((p) => p.id));
  return rows.findIndex((r) => ids.has(r.part.id));
}

/** What a filter knows besides the parts. */
export interface Known {
  /** The parts at which a fault shows. */
  readonly faults: ReadonlySet<string>;
  /** The parts that a question is open about. */
  readonly questions: ReadonlySet<string>;
  /** The parts that say something else than when the drawing was read. */
  readonly changed: ReadonlySet<string>;
  /** The parts that stand elsewhere than drawn at a drawing's width, with how far. */
  readonly differs: ReadonlyMap<string, Difference>;
}

/** Words of a filter that stand for a rule or a state of a part. */
const STATES: Readonly<Record<string, (part: Part, known: Known) => boolean>> = {
  fixed: ({ rules }) => rules.width?.kind === 'fixed' || rules.height?.kind === 'fixed',
  fill: ({ rules }) => rules.width?.kind === 'fill' || rules.height?.kind === 'fill',
  hidden: ({ rules }) => rules.hidden === true,
  pinned: ({ rules }) => rules.pin !== undefined,
  limited: ({ rules }) => rules.minWidth !== undefined || rules.maxWidth !== undefined,
  turns: ({ below, wide }) => (below ?? []).length > 0 || wide !== undefined,
  question: ({ id }, { questions }) => questions.has(id),
  fault: ({ id }, { faults }) => faults.has(id),
  changed: ({ id }, { changed }) => changed.has(id),
  differs: ({ id }, { differs }) => differs.has(id),
  answered: ({ answered }) => (answered ?? []).length > 0,
  token: ({ bound }) => Object.keys(bound ?? {}).length > 0,
};
export const FILTER_WORDS = Object.keys(STATES);

/** The rows whose part answers to every word of a filter: a state, or a piece of its name. */
export function filtered(rows: readonly Row[], typed: string, known: Known): readonly Row[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return rows;
  return rows.filter(({ part }) =>
    words.every((word) => STATES[word]?.(part, known) ?? part.name.toLowerCase().includes(word)),
  );
}
