import {
  centreX,
  centreY,
  NO_PADDING,
  round,
  ruleOf,
  withChange,
  type Edges,
  type Part,
  type Rect,
} from '../../model/index.js';
import { commonest } from '../stack.js';
import { flowingOf, MAX_SNAP, type Standing } from './misplaced.js';

/** A child that would stand so far from its drawn place gets a gap of its own, px. */
const DRIFT = 0.4;

type Side = keyof Edges;

/** The names of what a flow's axis calls start and size. */
const AXES = {
  column: { at: 'y', size: 'height', start: 'top', end: 'bottom' },
  row: { at: 'x', size: 'width', start: 'left', end: 'right' },
} as const;

/** The axis that a container's flow runs along; undefined where it does not run along one. */
export function axisOf(part: Part): (typeof AXES)['row' | 'column'] | undefined {
  const flow = ruleOf(part.rules, 'flow');
  return (flow === 'row' || flow === 'column') && !part.rules.reverse ? AXES[flow] : undefined;
}

/** A row or column whose distances are those that put each child where it was drawn, whatever size it got. */
export function withDrawnGaps(part: Part, standing: readonly Standing[], own: Rect): Part | undefined {
  const axis = axisOf(part);
  const flowing = flowingOf(standing);
  const [first] = flowing;
  const last = flowing.at(-1);
  if (!axis || !first || !last) return undefined;
  const { at, size } = axis;
  const gaps = flowing.slice(1).map(({ meant }, i) => {
    const before = flowing[i] as Standing;
    return meant[at] - before.meant[at] - before.box[size];
  });
  const gap = round(commonest(gaps, 2 * DRIFT).value, 1);
  let drift = 0;
  const before = new Map<Part, number | null>(
    gaps.map((g, i) => {
      const child = (flowing[i + 1] as Standing).child;
      drift += gap - g;
      if (Math.abs(drift) <= DRIFT) return [child, null];
      const own = round(gap - drift, 2);
      drift = 0;
      return [child, own];
    }),
  );
  const padding: Edges = {
    ...(part.rules.padding ?? NO_PADDING),
    [axis.start satisfies Side]: Math.max(0, round(first.meant[at], 2)),
    // No more room at the end than there is, so that nothing is squeezed.
    [axis.end satisfies Side]: Math.max(
      0,
      Math.min(
        (part.rules.padding ?? NO_PADDING)[axis.end],
        round(own[size] - last.meant[at] - last.meant[size], 2),
      ),
    ),
  };
  const children = part.children.map((child) => {
    if (child === first.child) return { ...child, rules: withChange(child.rules, { gapBefore: null }) };
    const gapBefore = before.get(child);
    return gapBefore === undefined ? child : { ...child, rules: withChange(child.rules, { gapBefore }) };
  });
  return { ...part, rules: withChange(part.rules, { gap, padding, justify: null }), children };
}

/** A row or column in which children in its very middle are held there, whatever stands beside them. */
export function withMiddles(part: Part, standing: readonly Standing[], own: Rect): Part | undefined {
  const axis = axisOf(part);
  if (!axis || typeof part.rules.gap === 'number') return undefined;
  const { at, size } = axis;
  const isMiddle = ({ meant }: Standing) => Math.abs(meant[at] + meant[size] / 2 - own[size] / 2) <= MAX_SNAP;
  const middles = new Set(
    flowingOf(standing)
      .filter(isMiddle)
      .map((s) => s.child),
  );
  if (middles.size !== 1) return undefined;
  const children = part.children.map((child) => {
    const found = standing.find((s) => s.child === child && middles.has(child));
    if (!found) return child;
    const { meant } = found;
    const pin =
      at === 'x'
        ? { centreX: 0, centreY: round(centreY(meant) - own.height / 2, 1) }
        : { centreX: round(centreX(meant) - own.width / 2, 1), centreY: 0 };
    return { ...child, rules: withChange(child.rules, { pin, gapBefore: null, alignSelf: null }) };
  });
  return { ...part, children };
}
