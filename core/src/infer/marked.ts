import { union, wordSize, type Rect } from '../model/index.js';
import { isHolder, isText, near, type Node } from './node.js';
import { endOf, groupNode, other, startOf, type Axis } from './stack.js';

/** So many entries, the marked one among them, are a list of which one is marked. */
const LIST = 3;

const contentBox = (node: Node): Rect => union(node.children.map((c) => c.box));

/** The size of the first words in a node, px; undefined where it has none. */
function firstSize(node: Node): number | undefined {
  if (isText(node) && node.item?.kind === 'text') return wordSize(node.item.content);
  for (const child of node.children) {
    const size = firstSize(child);
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
 * By how much less high something is than what a marked thing holds, px; undefined where they differ by more than the room above
 * and below, as things of one make-up do not.
 */
function lowerBy(content: Rect, marked: Node): number | undefined {
  const held = contentBox(marked);
  const less = held.height - content.height;
  return Math.abs(less) <= marked.box.height - held.height ? less : undefined;
}

/**
 * The room around something that is made as what a marked thing holds. Icons differ by their ink: what is about as high as that
 * stands in the middle.
 */
export function withRoom(content: Rect, marked: Node): Rect {
  const { box } = marked;
  const held = contentBox(marked);
  const less = lowerBy(content, marked) ?? 0;
  return {
    x: content.x - (held.x - box.x),
    y: content.y - (held.y - box.y) - less / 2,
    width: content.width + box.width - held.width,
    height: content.height + box.height - held.height + less,
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
  if (firstSize(entry) !== firstSize(marked)) return undefined;
  const across = other(axis);
  const lines = [...starts(marked, across)];
  if (![...starts(entry, across)].some((s) => lines.some((l) => near(s, l, by)))) return undefined;
  const room = withRoom(entry.box, marked);
  const box =
    axis === 'column' ? { ...room, x: marked.box.x, width: marked.box.width } : around(entry, marked);
  const isInside =
    startOf(entry.box, across) >= startOf(box, across) - by &&
    endOf(entry.box, across) <= endOf(box, across) + by;
  if (!isInside || (axis === 'column' && lowerBy(entry.box, marked) === undefined)) return undefined;
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
  node.item?.kind === 'shape' && isHolder(node) && node.children.length > 0 && firstSize(node) !== undefined;

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
