import { centreX, type Rect } from '../model/index.js';
import { isText, near, type Node, type Tolerance } from './node.js';
import type { Places } from './repeated.js';
import { commonest } from './stack.js';
import { fitsContent } from './widths.js';

/** So many things in one line whose middles stand at even steps are tabs; in several lines two are enough. */
const TABS = 3;

const isEven = (numbers: readonly number[], by: number): boolean =>
  commonest(numbers, by).count === numbers.length;

/**
 * The places in a box of things whose middles stand at even steps, as equal as far from both sides: tabs that fill it, or columns
 * with gaps between them, in one line or several. Undefined for other things, and for those that begin at even steps, too.
 */
export function tabPlaces(
  lines: readonly (readonly Node[])[],
  box: Rect,
  tolerance: Tolerance,
): Places | undefined {
  const [line, ...more] = lines;
  const [first, second] = line ?? [];
  const all = lines.flat();
  const by = tolerance.same;
  if (!line || !first || !second || (more.length === 0 && line.length < TABS)) return undefined;
  if (all.some((c) => c.item && !isText(c)) || !all.every((c) => fitsContent(c, tolerance))) return undefined;
  const columns = line.map((_, i) => lines.flatMap((l) => l[i] ?? []));
  const middles = columns.map((column) => centreX((column[0] as Node).box));
  if (
    more.some((l) => l.length > line.length || l.some((c, i) => !near(centreX(c.box), middles[i] ?? NaN, by)))
  )
    return undefined;
  const steps = middles.slice(1).map((m, i) => m - (middles[i] as number));
  const starts = line.slice(1).map((c, i) => c.box.x - (line[i] as Node).box.x);
  if (!isEven(steps, by)) return undefined;
  // What begins at even steps, line below line, has its content at the start.
  const atStart = columns.every((column) =>
    isEven(
      column.map((c) => c.box.x),
      by,
    ),
  );
  if (atStart && (isEven(starts, by) || more.length > 0)) return undefined;
  const step = commonest(steps, by).value;
  const before = (middles[0] as number) - box.x;
  const after = box.width - before - step * (line.length - 1);
  if (!near(before, after, by * 2)) return undefined;
  // What is further from the sides than half a step keeps a padding; what is nearer leaves gaps.
  const left = Math.max(0, before - step / 2);
  const width = Math.min(step, before + after);
  if (all.some((c) => c.box.width > width)) return undefined;
  return { left, rest: Math.max(0, after - step / 2), width, step };
}
