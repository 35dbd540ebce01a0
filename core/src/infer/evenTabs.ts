import { centreX, type Rect } from '../model/index.js';
import { isText, type Node, type Tolerance } from './node.js';
import { commonest } from './stack.js';
import { fitsContent } from './widths.js';

/** So many things whose middles stand at even steps are tabs. */
const TABS = 3;

/**
 * The places of equal tabs in a box, px: things as wide as their content whose middles stand at even steps that fill it, from
 * `left` on. Undefined for other things, and for those that begin at even steps, too.
 */
export function tabPlaces(
  children: readonly Node[],
  box: Rect,
  tolerance: Tolerance,
): { left: number; rest: number; step: number } | undefined {
  const [first] = children;
  const count = children.length;
  const by = tolerance.same;
  if (!first || count < TABS || children.some((c) => c.item && !isText(c))) return undefined;
  if (!children.every((c) => fitsContent(c, tolerance))) return undefined;
  const steps = children.slice(1).map((c, i) => centreX(c.box) - centreX((children[i] as Node).box));
  const step = commonest(steps, by);
  const starts = children.slice(1).map((c, i) => c.box.x - (children[i] as Node).box.x);
  if (step.count < steps.length || commonest(starts, by).count === starts.length) return undefined;
  const left = centreX(first.box) - step.value / 2 - box.x;
  const rest = box.width - left - step.value * count;
  if (left < -1 || Math.abs(left - rest) > by * 2 || children.some((c) => c.box.width > step.value))
    return undefined;
  return { left, rest, step: step.value };
}
