import { bottom, FILL, right, round, type Rect, type Rules, type Size } from '../model/index.js';
import { crossSpan, seatAcross } from './across.js';
import type { Builder } from './build.js';
import { isSeparator } from './joinedLines.js';
import { isRule, isText, near, type Node } from './node.js';
import { commonest, gapsOf, groupNode, spread } from './stack.js';
import { isRigid } from './widths.js';
import { withRules, type Seat } from './seat.js';

/** A table has at least so many rows, and a column stands in this share of them. */
const LEAST_ROWS = 3;
const MOST_OF_ROWS = 0.7;
/** Starts and ends this near to each other are those of one column, px. */
const SAME = 2;
/** What the widths of a column's cells differ by at least where words end as they will, px. */
const RAGGED = 3;

/** The column that a cell of a table stands in: its extent, where it is known, and its width rule. */
export interface TableCell {
  readonly from: number;
  /** None for the last: it reaches to the row's end. */
  readonly to?: number;
  readonly align: 'start' | 'end';
  readonly width: Size;
}

interface Column {
  /** The start, or where words end at one place, the end. */
  readonly at: number;
  readonly align: 'start' | 'end';
  readonly cells: readonly Node[];
}

/** What stands further apart than this in a row is in cells of its own, px. */
const LOOSE = 24;

/** A row without the groups that only its wide spaces make. */
function loosened(row: Node): Node {
  const isLoose = (c: Node) => !c.item && c.flow === 'row' && Math.max(...gapsOf(c.children, 'row')) > LOOSE;
  if (!row.children.some(isLoose)) return row;
  return { ...row, children: row.children.flatMap((c) => (isLoose(c) ? loosened(c).children : [c])) };
}

/** The rows of a column of rows: its children, or the one row that a child wraps, beside separators. */
function rowOf(node: Node): Node | undefined {
  if (node.flow === 'row' && node.children.length > 1) return loosened(node);
  const inner = node.children.filter((c) => !isRule(c) && !isSeparator(c));
  const [only] = inner;
  return node.flow === 'column' && only && inner.length === 1 ? rowOf(only) : undefined;
}

/** Values that at least `least` of the groups of numbers have in common, ascending. */
function shared(groups: readonly (readonly number[])[], least: number): number[] {
  const all = groups.flat().sort((a, b) => a - b);
  const found: number[] = [];
  for (const value of all) {
    if (found.length > 0 && near(found.at(-1) as number, value, SAME * 2)) continue;
    const alike = groups.map((g) => g.find((v) => near(v, value, SAME))).filter((v) => v !== undefined);
    if (alike.length >= least) found.push(alike.sort((a, b) => a - b)[alike.length >> 1] as number);
  }
  return found;
}

function columnsOf(rows: readonly Node[]): Column[] | undefined {
  const least = Math.max(LEAST_ROWS, Math.ceil(rows.length * MOST_OF_ROWS));
  const isAt = (at: number) => (v: number) => near(v, at, SAME);
  const cellsAt = (at: number, of: (n: Node) => number) =>
    rows.flatMap((r) => r.children.filter((c) => isAt(at)(of(c))));
  const starts = shared(
    rows.map((r) => r.children.map((c) => c.box.x)),
    least,
  ).filter((at) => {
    // Where more of them end at one place than begin at one, the end is what they share.
    const cells = cellsAt(at, (n) => n.box.x);
    const ends = cells.map((n) => right(n.box));
    const endAlike = spread(ends) <= SAME;
    return !endAlike || cellsAt(ends[0] ?? 0, (n) => right(n.box)).length <= cells.length;
  });
  const started = starts.map((at): Column => ({ at, align: 'start', cells: cellsAt(at, (n) => n.box.x) }));
  const rest = rows.map((r) => r.children.filter((c) => !starts.some((s) => near(s, c.box.x, SAME))));
  const ends = shared(
    rest.map((cells) => cells.map((c) => right(c.box))),
    least,
  );
  const ended = ends.map((at): Column => ({ at, align: 'end', cells: cellsAt(at, (n) => right(n.box)) }));
  const columns = [...started, ...ended].sort((a, b) => a.at - b.at);
  // Words that end as they will before a column that stands still are what tells a table from a list.
  const telling = columns.filter((c, i) => {
    const widths = c.cells.map((n) => n.box.width);
    const ragged = commonest(widths, RAGGED).count < widths.length * MOST_OF_ROWS;
    return c.align === 'start' && i < columns.length - 1 && ragged;
  });
  return telling.length >= 2 ? columns : undefined;
}

/** What the cells of a row keep from each other where nothing tells it, px; the most that a picture tells. */
const CELL_SPACE = 16;
const MOST_SPACE = 32;

const leftOf = (column: Column): number =>
  column.align === 'start' ? column.at : Math.min(...column.cells.map((n) => n.box.x));

/** How far everything in each column but the last stands from where the next begins. */
const clearances = (columns: readonly Column[]): number[] =>
  columns
    .slice(1)
    .map((next, i) => leftOf(next) - Math.max(...(columns[i] as Column).cells.map((n) => right(n.box))));

/**
 * The gap between the cells of a row: what stands as wide as its column tells it. None where a program has shared the
 * room out, which gives its cells paddings, or where there is no room for one.
 */
function gapOfColumns(columns: readonly Column[]): number {
  if (isShared(columns)) return 0;
  const clear = clearances(columns);
  const least = Math.min(...clear);
  const told = clear.find((_, i) => {
    const widths = (columns[i] as Column).cells.map((n) => n.box.width);
    const still = (columns[i] as Column).cells.every(isRigid);
    return still && spread(widths) <= SAME;
  });
  const gap = told !== undefined && told <= MOST_SPACE ? told : CELL_SPACE;
  return gap > 0 && gap <= least + SAME / 2 ? gap : 0;
}

/** Where each column begins: at its start, or at or a little before the widest thing in it. */
const beginnings = (columns: readonly Column[], gap: number): number[] => {
  const clear = clearances(columns);
  return columns.map((c, i) => {
    const space = gap > 0 || c.align === 'start' || i === 0 ? 0 : (clear[i - 1] as number) / 2;
    return leftOf(c) - Math.min(CELL_SPACE, space);
  });
};

/** Columns that stand so exactly in all rows and still between whole px were shared out by a program, px. */
const EXACT = 0.1;

const isShared = (columns: readonly Column[]): boolean =>
  columns.every((c) => c.align === 'end' || mostly(c.cells, (n) => near(n.box.x, c.at, EXACT))) &&
  columns.some((c, i) => {
    const next = columns[i + 1];
    const between = c.align === 'start' && next?.align === 'start' ? next.at - c.at : 0;
    return !near(between, Math.round(between), EXACT);
  });

const mostly = (cells: readonly Node[], holds: (n: Node) => boolean): boolean =>
  cells.filter(holds).length >= cells.length * MOST_OF_ROWS;

/** Columns, where each begins, and the gap between them. */
interface Laid {
  readonly columns: readonly Column[];
  readonly from: readonly number[];
  readonly gap: number;
}

/** Where a column ends: a gap before the next begins, or before that where its words all end at one place. */
function endOfColumn({ columns, from, gap }: Laid, at: number, end: number): number {
  const [column, next] = [columns[at], from[at + 1]];
  return next === undefined ? end : column?.align === 'end' ? column.at : next - gap;
}

/** The width rules of columns: shares where a program has shared the room out, else one that fills beside others. */
function widthsOf(laid: Laid, end: number): Size[] {
  const { columns, from } = laid;
  const sizes = from.map((x, i) => endOfColumn(laid, i, end) - x);
  const first = sizes[0] ?? 1;
  const rigid = columns.map((c) => c.cells.every(isRigid));
  if (isShared(columns))
    return sizes.map((s, i): Size =>
      rigid[i] ? { kind: 'fixed', px: round(s, 2) } : { kind: 'fill', weight: round(s / first, 4) },
    );
  const largest = Math.max(...sizes.filter((_, i) => !rigid[i]));
  return sizes.map((s): Size => (s === largest ? FILL : { kind: 'fixed', px: round(s, 2) }));
}

/** The row with the columns that its cells stand in, where each stands in one. */
function withCells(asRead: Node, laid: Laid, widths: readonly Size[]): Node {
  const { columns, from } = laid;
  const row = loosened(asRead);
  const at = row.children.map((cell) =>
    columns.findIndex((c) => near(c.align === 'start' ? cell.box.x : right(cell.box), c.at, SAME)),
  );
  const inOrder = at.every((c, i) => c >= 0 && (i === 0 || c > (at[i - 1] as number)));
  if (!inOrder || at[0] !== 0) return asRead;
  const cells = at.map((c, i): TableCell => {
    const next = at[i + 1] ?? columns.length;
    const spanned = widths.slice(c, next);
    const weight = spanned.reduce((s, w) => s + (w.kind === 'fill' ? w.weight : 0), 0);
    const [only] = spanned;
    const to = from[next] === undefined ? undefined : endOfColumn(laid, next - 1, 0);
    return {
      from: from[c] as number,
      ...(to !== undefined && { to }),
      align: (columns[c] as Column).align,
      width: spanned.length === 1 && only ? only : { kind: 'fill', weight: round(weight || 1, 4) },
    };
  });
  return { ...row, cells, cellGap: laid.gap };
}

/** Marks the rows of tables with the columns that their cells stand in. */
export function markTables(node: Node): Node {
  const children = node.children.map(markTables);
  const pins = node.pins.map(markTables);
  const same = children.every((c, i) => c === node.children[i]) && pins.every((p, i) => p === node.pins[i]);
  const marked: Node = same ? node : { ...node, children, pins };
  if (node.flow !== 'column') return marked;
  const rows = marked.children.flatMap((c) => rowOf(c) ?? []);
  const columns = rows.length >= LEAST_ROWS ? columnsOf(rows) : undefined;
  if (!columns) return marked;
  const gap = gapOfColumns(columns);
  const laid: Laid = { columns, from: beginnings(columns, gap), gap };
  const { from } = laid;
  const left = (from[0] ?? 0) - node.box.x;
  const last = columns.at(-1) as Column;
  const end = last.align === 'end' ? last.at : right(node.box) - left;
  const widths = widthsOf(laid, end);
  const mark = (n: Node): Node =>
    n.flow === 'row' ? withCells(n, laid, widths) : { ...n, children: n.children.map(mark) };
  return { ...marked, children: marked.children.map((c) => (rowOf(c) ? mark(c) : c)) };
}

/** A cell in its column: what is as wide as it holds stands in a group that is as wide as the column. */
function inColumn(cell: Node, { from, align }: TableCell, to: number): Node {
  const stands = isText(cell) || (!cell.item && cell.children.length > 0);
  if (stands || align === 'end') return cell;
  return { ...groupNode('column', [cell]), box: { ...cell.box, x: from, width: to - from } };
}

/** The rules of a row of a table: its cells are as wide as their columns. */
export function planTable(node: Node, box: Rect, b: Builder): { rules: Rules; seats: Seat[] } {
  const { cells = [], cellGap = 0 } = node;
  const gap = b.px(cellGap);
  const last = cells.at(-1) as TableCell;
  const left = Math.max(0, (cells[0] as TableCell).from - box.x);
  const end = last.align === 'end' ? right((node.children.at(-1) as Node).box) : right(box) - left;
  const ends = cells.map((c) => c.to ?? end);
  const children = node.children.map((c, i) => inColumn(c, cells[i] as TableCell, ends[i] as number));
  const boxes = cells.map((c, i) => {
    const own = (children[i] as Node).box;
    return { ...own, x: c.from, width: (ends[i] as number) - c.from };
  });
  const span = crossSpan(children);
  const top = Math.max(0, span.from - box.y);
  const below = Math.max(0, bottom(box) - span.to);
  const inner = {
    x: box.x + left,
    y: box.y + top,
    width: end - box.x - left,
    height: box.height - top - below,
  };
  const before = cells.map((c, i) => {
    const space = i === 0 ? 0 : c.from - (ends[i - 1] as number);
    return i === 0 || near(space, gap, b.tolerance.same) ? undefined : b.px(Math.max(0, space));
  });
  const plan = { widths: cells.map((c) => c.width), boxes, gap, before };
  const { align, seats } = seatAcross(children, plan, inner, b);
  const rules: Rules = {
    flow: 'row',
    gap,
    padding: {
      top: b.px(top),
      right: b.px(Math.max(0, right(box) - end)),
      bottom: b.px(below),
      left: b.px(left),
    },
    ...(align !== 'start' && { align }),
  };
  return {
    rules,
    seats: seats.map((s, i) =>
      withRules(cells[i]?.align === 'end' ? { ...s, textAlign: 'end' } : s, { align, gapBefore: before[i] }),
    ),
  };
}
