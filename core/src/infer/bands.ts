import { bottom, right, union, type Rect } from '../model/index.js';
import type { Node } from './node.js';
import { isSeparator } from './separators.js';
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

/**
 * The parts of a painted box that lines from side to side divide: its head, its body and its foot, each with paddings of its own and no gap
 * between them. Where nothing divides it, its children as they are.
 */
export function intoBands(children: readonly Node[], box: Rect): readonly Node[] {
  const at = children.flatMap((c, i) => (divides(c, box) && i > 0 && i < children.length - 1 ? [i] : []));
  if (at.length === 0) return children;
  const bands: Node[] = [];
  let top = box.y;
  for (const [k, end] of [...at, children.length].entries()) {
    const run = children.slice(k === 0 ? 0 : (at[k - 1] as number) + 1, end);
    if (run.length === 0 || run.some(isSeparator)) return children;
    const line = children[end];
    const content = union(run.map((c) => c.box));
    const needs = bottom(content) + Math.max(0, content.y - top);
    // A body may be lower than a box that is as high as what stands beside it.
    const foot = line ? bottom(line.box) : bottom(box) - needs <= REACHES ? bottom(box) : needs;
    bands.push(band(run, { ...box, y: top, height: foot - top }, line ? [line] : []));
    top = foot;
  }
  return bands;
}
