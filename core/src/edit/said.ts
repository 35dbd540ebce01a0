import { fixed, round, type Part, type Pin, type Rect, type RuleChange, type Step } from '../model/index.js';

/** Steps as one; a single one as it is. */
export function together(steps: readonly Step[]): Step {
  const [only] = steps;
  return only && steps.length === 1 ? only : { kind: 'several', steps };
}

/** The sizes of a part that fills what holds it, as it stands: out of the flow nothing is left to fill. */
export const keptSizes = ({ rules }: Part, box: Rect): RuleChange => ({
  ...(rules.width?.kind === 'fill' && { width: fixed(round(box.width, 2)) }),
  ...(rules.height?.kind === 'fill' && { height: fixed(round(box.height, 2)) }),
});

/** A pin to the upper left corner of `outer` that keeps a box where it stands. */
export const pinAt = (box: Rect, outer: Rect): Pin => ({
  left: round(box.x - outer.x, 2),
  top: round(box.y - outer.y, 2),
});
