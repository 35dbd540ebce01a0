import { bottom, right, union, type Edges, type Rect } from '../model/index.js';
import { isHolder, isText, near, type Node } from './node.js';
import { endOf, groupNode, other, startOf, type Axis } from './stack.js';

/** So many entries, the marked one among them, are a list of which one is marked. */
const LIST = 3;

/** The distances of the sides of something from those of what it stands in. */
const within = (inner: Rect, outer: Rect): Edges => ({
  top: inner.y - outer.y,
  right: right(outer) - right(inner),
  bottom: bottom(outer) - bottom(inner),
  left: inner.x - outer.x,
});

const contentBox = (node: Node): Rect => union(node.children.map((c) => c.box));

/** The room that a marked thing shows around what it holds. */
const roomOf = (marked: Node): Edges => within(contentBox(marked), marked.box);

/** The size of the first words in a node; undefined where it has none. */
function wordSize(node: Node): number | undefined {
  if (isText(node) && node.item?.kind === 'text') return node.item.content.runs[0]?.style.size;
  for (const child of node.children) {
    const size = wordSize(child);
    if (size !== undefined) return size;
  }
  return undefined;
}

/** Where the leaves of a node begin across an axis. */
function* starts(node: Node, axis: Axis): Generator<number> {
  if (node.children.length === 0) yield startOf(node.box, axis);
  for (const child of node.children) yield* starts(child, axis);
}

/**
 * The room around something that is made as what a marked thing holds. Icons differ by their ink: what is about as high as that
 * stands in the middle.
 */
export function withRoom(content: Rect, marked: Node): Rect {
  const { top, right: end, bottom: foot, left } = roomOf(marked);
  const less = contentBox(marked).height - content.height;
  const rest = Math.abs(less) <= top + foot ? less / 2 : 0;
  return {
    x: content.x - left,
    y: content.y - top - rest,
    width: content.width + left + end,
    height: content.height + top + foot + 2 * rest,
  };
}

/** The room of an entry in a row of them: as high as the marked one. */
const around = (entry: Node, marked: Node): Rect => ({
  ...withRoom(entry.box, marked),
  y: marked.box.y,
  height: marked.box.height,
});

/**
 * The entry of a list in the room that the marked one shows; undefined where it is none of the same list: an entry has
 * words of that size, and what it holds stands across the list as in the marked one.
 */
function inRoomOf(marked: Node, entry: Node, axis: Axis, by: number): Node | undefined {
  if (entry.item && !isText(entry)) return undefined;
  if (wordSize(entry) !== wordSize(marked)) return undefined;
  const across = other(axis);
  const lines = [...starts(marked, across)];
  if (![...starts(entry, across)].some((s) => lines.some((l) => near(s, l, by)))) return undefined;
  const room = withRoom(entry.box, marked);
  const box =
    axis === 'column' ? { ...room, x: marked.box.x, width: marked.box.width } : around(entry, marked);
  const isInside =
    startOf(entry.box, across) >= startOf(box, across) - by &&
    endOf(entry.box, across) <= endOf(box, across) + by;
  const isAsHigh =
    Math.abs(contentBox(marked).height - entry.box.height) <= marked.box.height - contentBox(marked).height;
  if (!isInside || (axis === 'column' && !isAsHigh)) return undefined;
  const node = entry.item || entry.flow === undefined ? groupNode('column', [entry]) : entry;
  return { ...node, box, isPadded: true };
}

/** The entries of a list of which one is marked, in the room that this one shows, and where they stand among their siblings. */
export interface Marked {
  readonly entries: ReadonlyMap<Node, Node>;
  /** The first of them, and what follows the last; between them are their headings, too. */
  readonly from: number;
  readonly to: number;
}

/**
 * In a list of which one entry is marked by a background, this shows the room that every entry has: where it makes the spaces
 * between all of them the same, the others have it too, unseen. Undefined for other stacks.
 */
export function markedList(nodes: readonly Node[], axis: Axis, by: number): Marked | undefined {
  for (const [at, marked] of nodes.entries()) {
    const found = isMarked(marked) ? listAround(nodes, at, axis, by) : undefined;
    if (found) return found;
  }
  return undefined;
}

/** Whether a background marks a node: a painted box around words. */
export const isMarked = (node: Node): boolean =>
  node.item?.kind === 'shape' && isHolder(node) && node.children.length > 0 && wordSize(node) !== undefined;

/** The entries beside the marked one in the room that it shows, where this makes even what was not. */
function listAround(nodes: readonly Node[], at: number, axis: Axis, by: number): Marked | undefined {
  const marked = nodes[at] as Node;
  const padded = nodes.map((n, i) => (i === at ? marked : inRoomOf(marked, n, axis, by)));
  const gaps = padded.slice(1).map((b, i): number => {
    const a = padded[i];
    return a && b ? startOf(b.box, axis) - endOf(a.box, axis) : NaN;
  });
  // The space that the marked one keeps from an entry is the one between all.
  for (const even of [gaps[at], gaps[at - 1]]) {
    if (even === undefined || Number.isNaN(even) || even < -by) continue;
    const isEven = gaps.map((g) => near(g, even, 1.5 * by));
    if (!isEven.some((e, i) => e && i !== at && i !== at - 1)) continue;
    const entries = nodes.flatMap((n, i): [Node, Node][] =>
      isEven[i] || isEven[i - 1] ? [[n, padded[i] as Node]] : [],
    );
    if (entries.length < LIST) continue;
    return { from: isEven.indexOf(true), to: isEven.lastIndexOf(true) + 2, entries: new Map(entries) };
  }
  return undefined;
}
