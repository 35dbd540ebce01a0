import { bottom, right, union, type Rect } from '../model/index.js';
import type { Node } from './node.js';
import { isSeparator } from './joinedLines.js';
import { hasEdge } from './separators.js';
import { groupNode } from './stack.js';

/** A line reaches this near to the sides of the box that it divides, px. */
const FLUSH = 2.6;
/** A last band that ends this near to its box's foot reaches it, px. */
const REACHES = 3;

/** Whether a line runs from one side of a box to the other. */
const divides = (node: Node, box: Rect): boolean =>
  isSeparator(node) && node.box.x - box.x <= FLUSH && right(box) - right(node.box) <= FLUSH;

/** What stands between two lines as one with the room up to them, and with the line below it as its edge. */
function band(run: readonly Node[], box: Rect, lines: readonly Node[]): Node {
  const [only, ...more] = run;
  const isGroup = only !== undefined && more.length === 0 && !only.item && only.of === undefined;
  const node = isGroup ? { ...only, pins: [...only.pins, ...lines] } : groupNode('column', run, lines);
  return { ...node, box };
}

/** Where the last band ends, whose content a box holds: a body may be lower than one that is as high as its neighbours. */
function footOf(content: Rect, top: number, box: Rect): number {
  const needs = bottom(content) + Math.max(0, content.y - top);
  return bottom(box) - needs <= REACHES ? bottom(box) : needs;
}

/** Bands that have their lines already, made to meet. */
function meetingBands(children: readonly Node[], box: Rect): Node[] | undefined {
  const isBand = (n: Node) => !n.item && hasEdge(n, 'below') && n.pins.some((p) => divides(p, box));
  if (children.length < 2 || !children.slice(0, -1).every(isBand)) return undefined;
  let top = box.y;
  return children.map((n, i) => {
    const content = n.children.length > 0 ? union(n.children.map((c) => c.box)) : n.box;
    const foot = i < children.length - 1 ? bottom(n.box) : footOf(content, top, box);
    const own = { ...box, y: top, height: foot - top };
    top = foot;
    return n.item || n.children.length === 0 ? n : { ...n, box: own };
  });
}

/**
 * The parts of a painted box that lines from side to side divide: its head, its body and its foot, each with paddings
 * of its own and no gap between them. Where nothing divides it, its children as they are.
 */
export function intoBands(children: readonly Node[], box: Rect): readonly Node[] {
  const placed = meetingBands(children, box);
  if (placed) return placed;
  const at = children.flatMap((c, i) => (divides(c, box) && i > 0 && i < children.length - 1 ? [i] : []));
  if (at.length === 0) return children;
  const bands: Node[] = [];
  let top = box.y;
  for (const [k, end] of [...at, children.length].entries()) {
    const run = children.slice(k === 0 ? 0 : (at[k - 1] as number) + 1, end);
    if (run.length === 0 || run.some(isSeparator)) return children;
    const line = children[end];
    const foot = line ? bottom(line.box) : footOf(union(run.map((c) => c.box)), top, box);
    bands.push(band(run, { ...box, y: top, height: foot - top }, line ? [line] : []));
    top = foot;
  }
  return bands;
}
