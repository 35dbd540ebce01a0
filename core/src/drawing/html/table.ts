import type { StyledNode } from './computed.js';

export interface TableCell {
  readonly node: StyledNode;
  readonly column: number;
  readonly span: number;
}

export interface TableRow {
  readonly node: StyledNode | undefined;
  readonly cells: readonly TableCell[];
}

/** The rows of a table in order; cells that reach over rows count for their first. */
export function rowsOf(table: StyledNode): TableRow[] {
  const found: TableRow[] = [];
  const visit = (node: StyledNode): void => {
    for (const child of node.children) {
      if (typeof child === 'string' || child.style.display === 'none') continue;
      if (child.style.display === 'rows') visit(child);
      else if (child.style.display === 'row') {
        let column = 0;
        const cells = child.children.flatMap((cell): TableCell[] => {
          if (typeof cell === 'string' || cell.style.display === 'none') return [];
          const span = Math.min(100, Math.max(1, Number(cell.el.attributes['colspan']) || 1));
          const at = column;
          column += span;
          return [{ node: cell, column: at, span }];
        });
        found.push({ node: child, cells });
      }
    }
  };
  visit(table);
  return found;
}

/**
 * The widths of a table's columns in `avail` px (automatic layout, CSS 2.2 §17.5.2.2): declared ones first, the rest by
 * what the content asks for.
 */
export function columnWidths(
  rows: readonly TableRow[],
  avail: number,
  outer: (cell: StyledNode, which: 'min' | 'max') => number,
): number[] {
  const count = Math.max(0, ...rows.map((r) => Math.max(0, ...r.cells.map((c) => c.column + c.span))));
  const wanted = new Array<number>(count).fill(0);
  const declared = new Array<boolean>(count).fill(false);
  for (const { cells } of rows)
    for (const { node, column, span } of cells) {
      if (span > 1) continue;
      const { width } = node.style;
      const share = typeof width === 'object' && Number.isFinite(avail) ? width.share * avail : undefined;
      const own = share ?? outer(node, avail === 0 ? 'min' : 'max');
      if (typeof width === 'number' || share !== undefined) declared[column] = true;
      wanted[column] = Math.max(wanted[column] ?? 0, own);
    }
  const total = wanted.reduce((s, w) => s + w, 0);
  if (!Number.isFinite(avail) || avail === 0 || total === 0) return wanted;
  const open = wanted.filter((_, i) => !declared[i]).reduce((s, w) => s + w, 0);
  const free = avail - total;
  // What is left over, or lacking, goes to the columns that declare nothing.
  return wanted.map((w, i) => (declared[i] || open === 0 ? w : Math.max(0, w + (free * w) / open)));
}
