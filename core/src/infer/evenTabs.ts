import { centreX, type Rect } from '../model/index.js';
import { isText, type Node, type Tolerance } from './node.js';
import { commonest } from './stack.js';
import { fitsContent } from './widths.js';

/** So many things whose middles stand at even steps are tabs. */
const TABS = 3;

/** The places of equal columns with their content in the middle, px: the first `left` of the sides, then one every `step`. */
export interface Places {
  readonly left: number;
  readonly rest: number;
  readonly width: number;
  readonly step: number;
}

/**
 * The places in a box of things whose middles stand at even steps, as equal as far from both sides: tabs that fill it, or columns
 * with gaps between them. Undefined for other things, and for those that begin at even steps, too.
 */
export function tabPlaces(
  children: readonly Node[],
  box: Rect,
  tolerance: Tolerance,
): Places | undefined {
  const [first] = children;
  const count = children.length;
  const by = tolerance.same;
  if (!first || count < TABS || children.some((c) => c.item && !isText(c))) return undefined;
  if (!children.every((c) => fitsContent(c, tolerance))) return undefined;
  const steps = children.slice(1).map((c, i) => centreX(c.box) - centreX((children[i] as Node).box));
  const step = commonest(steps, by);
  const starts = children.slice(1).map((c, i) => c.box.x - (children[i] as Node).box.x);
  if (step.count < steps.length || commonest(starts, by).count === starts.length) return undefined;
  const before = centreX(first.box) - box.x;
  const after = box.width - before - step.value * (count - 1);
  if (Math.abs(before - after) > by * 2) return undefined;
  // What is further from the sides than half a step keeps a padding; what is nearer leaves gaps.
  const left = Math.max(0, before - step.value / 2);
  const width = Math.min(step.value, before + after);
  if (children.some((c) => c.box.width > width)) return undefined;
  return { left, rest: Math.max(0, after - step.value / 2), width, step: step.value };
}
