import { ruleOf } from '../../model/index.js';
import { AXES, type Side } from '../look.js';
import { each, type Check, type Plan } from '../plan.js';
import { at, type Index, type Snapshot } from '../scene.js';

/** What lay in line in the drawing lay so within this, px. */
const IN_LINE = 1.5;
/** What no longer does is off by more than this, px: less is no strip that an eye sees. */
const OFF = 4.003;
/** Gaps were even in the drawing within this, and are uneven from this on, px. */
const EVEN = 1;
const UNEVEN = 2.003;

const share = (s: Snapshot, i: Index, j: Index, near: Side, far: Side): number =>
  Math.min(at(s.box[far], i), at(s.box[far], j)) - Math.max(at(s.box[near], i), at(s.box[near], j));

/** Whether two stand beside each other and share some of their height. */
const sideBySide = (s: Snapshot, i: Index, j: Index): boolean =>
  share(s, i, j, 'top', 'bottom') > 1 && share(s, i, j, 'left', 'right') <= 1;

const isBoxOrPicture = (plan: Plan, i: Index): boolean =>
  plan.part(i).kind !== 'text' && (plan.part(i).content !== undefined || plan.isPainted(i));

/** Neighbours in the flow of every part that is shown. */
function* neighbours(plan: Plan): Generator<[i: Index, j: Index, parent: Index]> {
  for (const parent of plan.shown) {
    const kids = plan.inFlow(parent);
    for (const [n, i] of kids.entries()) {
      const j = kids[n + 1];
      if (j !== undefined) yield [i, j, parent];
    }
  }
}

/** Halves and cards that ended alike in the drawing, side by side, and no longer do. */
export const unlikeEnds: Check = (plan) =>
  each(
    [...neighbours(plan)].flatMap(([i, j, parent]) => {
      const drawing = isBoxOrPicture(plan, i) && isBoxOrPicture(plan, j) ? plan.drawn(i, j) : undefined;
      if (!drawing || !sideBySide(drawing, i, j)) return [];
      const alike = (side: Side) => Math.abs(at(drawing.box[side], i) - at(drawing.box[side], j)) <= IN_LINE;
      const sides = (['top', 'bottom'] as const).filter(alike);
      return sides.length > 0 ? [{ i, j, parent, sides }] : [];
    }),
    (look, { i, j, parent, sides }) => {
      if (!sideBySide(look.first, i, j) || !sideBySide(look.last, i, j)) return;
      for (const side of sides) {
        const [a, b] = look.term((s) => at(s.box[side], i) - at(s.box[side], j));
        const subject = { kind: 'out-of-line', part: i, other: j, answerable: parent } as const;
        look.over(subject, OFF, a, b);
        look.over(subject, OFF, -a, -b);
      }
    },
  );

/** How far an edge of a part lies within the same edge of what holds it. */
const inset = (s: Snapshot, i: Index, parent: Index, side: Side): number =>
  side === 'left' || side === 'top'
    ? at(s.box[side], i) - at(s.box[side], parent)
    : at(s.box[side], parent) - at(s.box[side], i);

/** Painted boxes and pictures that reached both edges of a painted parent, down or across, and leave a strip now. */
export const strips: Check = (plan) =>
  each(
    plan.shown.flatMap((i) => {
      const parent = plan.parent(i);
      const fits = parent > 0 && isBoxOrPicture(plan, i) && plan.isPainted(parent) && !plan.part(i).rules.pin;
      const drawing = fits ? plan.drawn(i, parent) : undefined;
      if (!drawing) return [];
      const sides = AXES.filter((axis) =>
        axis.every((side) => inset(drawing, i, parent, side) <= IN_LINE),
      ).flat();
      return sides.length > 0 ? [{ i, parent, sides }] : [];
    }),
    (look, { i, parent, sides }) => {
      for (const side of sides)
        look.over(
          { kind: 'out-of-line', part: i, other: parent, answerable: parent },
          OFF,
          ...look.term((s) => inset(s, i, parent, side)),
        );
    },
  );

/** Gaps between three or more in one line that were even in the drawing. */
export const unevenGaps: Check = (plan) =>
  each(
    plan.shown.flatMap((parent) => {
      const kids = plan.inFlow(parent);
      const drawing = kids.length >= 3 ? plan.drawn(...kids) : undefined;
      if (!drawing) return [];
      return AXES.flatMap((axis) => {
        const gaps = gapsAlong(drawing, kids, axis);
        const even = gaps.every((g) => g >= 0) && Math.max(...gaps) - Math.min(...gaps) <= EVEN;
        return even ? [{ parent, kids, axis }] : [];
      });
    }),
    (look, { parent, kids, axis }) => {
      const a = gapsAlong(look.first, kids, axis);
      const b = gapsAlong(look.last, kids, axis);
      // In another line, or over each other: that is told as such.
      if (a.some((g) => g < -1) || b.some((g) => g < -1)) return;
      const subject = { kind: 'uneven-gaps', part: parent, other: -1, answerable: parent } as const;
      for (let n = 1; n < a.length; n++) {
        const first = (a[n] as number) - (a[n - 1] as number);
        const last = (b[n] as number) - (b[n - 1] as number);
        look.over(subject, UNEVEN, first, last);
        look.over(subject, UNEVEN, -first, -last);
      }
    },
  );

const gapsAlong = (s: Snapshot, kids: readonly Index[], [near, far]: (typeof AXES)[number]): number[] =>
  kids.slice(1).map((k, n) => at(s.box[near], k) - at(s.box[far], kids[n] as Index));

/** Neighbours that are read one after the other and no longer stand so (WCAG 2.2 §1.3.2). */
export const readingOrder: Check = (plan) =>
  each(
    [...neighbours(plan)].filter(([i, j, parent]) => {
      const drawing = plan.drawn(i, j);
      const { rules } = plan.part(parent);
      // Lines that run from right to left are read so.
      const mirrored = rules.direction === 'rtl' && ruleOf(rules, 'flow') !== 'column';
      return drawing !== undefined && !mirrored && !isBefore(drawing, j, i);
    }),
    (look, [i, j, parent]) => {
      if (isBefore(look.first, j, i) && isBefore(look.last, j, i))
        look.throughout({ kind: 'order', part: i, other: j, answerable: parent }, 1);
    },
  );

/** Whether one stands wholly above another, or beside it on its line and further to the left. */
const isBefore = (s: Snapshot, i: Index, j: Index): boolean =>
  at(s.box.bottom, i) <= at(s.box.top, j) + 0.5 ||
  (share(s, i, j, 'top', 'bottom') > 1 && at(s.box.right, i) <= at(s.box.left, j) + 0.5);
