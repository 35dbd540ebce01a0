import type { Drawing } from '../drawing/index.js';
import { right, type Rect } from '../model/index.js';
import { near, type Node } from './node.js';

/** The left and right edge of a column, px. */
export interface Column {
  readonly from: number;
  readonly to: number;
  /** Whether all content stands in it, wherever that ends. */
  readonly holdsAll?: boolean;
}

/** Even margins wider than this come from a limit on the content's width, not from padding, px. */
export const WIDE_MARGIN = 49;
/**
 * Where the right edge is open, because words end where they will, narrower margins come from padding, px: on 25 such screens that
 * were counted no margin of up to 72 px grew with the frame, and one that is wider did.
 */
export const OPEN_MARGIN = 72;
/** Narrower screens have margins, and no column, px. */
const LEAST_WIDTH = 600;
/** So many items begin at the left edge of a content column. */
const STARTS = 2;
/** What begins where the content column does and ends so little before its end stands in it, px. */
const SHORT = 40;
const SAME = 1;

/**
 * The column in the middle of a screen that its content stands in: several items begin at its left edge, and something
 * ends at its right. Undefined for a screen that has none.
 */
export function contentColumn({ items, width }: Drawing): Column | undefined {
  if (width < LEAST_WIDTH) return undefined;
  const starts = new Map<number, number>();
  for (const { box } of items) {
    const x = Math.round(box.x);
    if (x >= WIDE_MARGIN && x < width / 2) starts.set(x, (starts.get(x) ?? 0) + 1);
  }
  const ends = new Set(items.map(({ box }) => Math.round(right(box))));
  const [from] = [...starts]
    .filter(([x, count]) => count >= STARTS && [-SAME, 0, SAME].some((off) => ends.has(width - x + off)))
    .sort((a, b) => b[1] - a[1] || a[0] - b[0])
    .map(([x]) => x);
  if (from !== undefined) return { from, to: width - from };
  const start = openStart(items, width);
  return start === undefined ? undefined : { from: start, to: width - start, holdsAll: true };
}

/** Where all content begins behind a wide margin and keeps at least as far from the other side; undefined where it does not. */
function openStart(items: Drawing['items'], width: number): number | undefined {
  const inside = items.map((i) => i.box).filter((b) => b.x > 1 || right(b) < width - 1);
  const start = Math.round(Math.min(...inside.map((b) => b.x)));
  const end = Math.max(...inside.map(right));
  return start >= OPEN_MARGIN && start < width / 2 && end <= width - start + SAME ? start : undefined;
}

/** Whether what reaches from one place to another begins where the content column does and all but reaches its end. */
export const standsIn = ({ from, to, holdsAll }: Column, start: number, end: number): boolean =>
  near(start, from, SAME) && end <= to + SAME && (holdsAll === true || end > to - SHORT);

/** A group that stands in the content column, as wide as that. */
export function inContentColumn(node: Node, room: Rect, column: Column): Node {
  const { from, to } = column;
  const isGroup = !node.item && node.children.length > 1;
  const stands = standsIn(column, node.box.x, right(node.box));
  const fits = room.x < from - SAME && right(room) >= to;
  return isGroup && stands && fits ? { ...node, box: { ...node.box, width: to - node.box.x } } : node;
}
