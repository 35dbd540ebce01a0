import { ruleOf } from '../../model/index.js';
import type { Term } from '../linear.js';
import { AXES, heightOf, SLACK, widthOf, type Look, type Side } from '../look.js';
import { each, type Check, type Plan } from '../plan.js';
import { at, type Index, type Snapshot } from '../scene.js';

/** What lay in line in the drawing lay so within this, px. */
const IN_LINE = 1.5;
/** What no longer does is off by more than this, px: less is no strip that an eye sees. */
const OFF = 4.003;
/** Gaps were even in the drawing within this, and are uneven from this on, px. */
const EVEN = 1;
const UNEVEN = 2.003;
/** What ends before another begins may reach into it by less than this, px. */
const BEFORE = 0.503;

const share = (s: Snapshot, i: Index, j: Index, near: Side, far: Side): number =>
  Math.min(at(s.box[far], i), at(s.box[far], j)) - Math.max(at(s.box[near], i), at(s.box[near], j));

/** Whether two stand beside each other and share some of their height. */
const sideBySide = (s: Snapshot, i: Index, j: Index): boolean =>
  share(s, i, j, 'top', 'bottom') > 1 && share(s, i, j, 'left', 'right') <= 1;

/** {@link sideBySide} as terms that are over nought: all of `level`, and one of `apart`. */
function sideBySideTerms(look: Look, i: Index, j: Index): { level: Term[]; apart: Term[] } {
  const past = (a: Index, far: Side, b: Index, near: Side) =>
    look.term((s) => at(s.box[far], a) - at(s.box[near], b) - SLACK);
  return {
    level: [
      past(i, 'bottom', j, 'top'),
      past(j, 'bottom', i, 'top'),
      look.term((s) => Math.min(heightOf(s, i), heightOf(s, j)) - SLACK),
    ],
    apart: [
      look.term((s) => SLACK + at(s.box.left, j) - at(s.box.right, i)),
      look.term((s) => SLACK + at(s.box.left, i) - at(s.box.right, j)),
      look.term((s) => SLACK - widthOf(s, i)),
      look.term((s) => SLACK - widthOf(s, j)),
    ],
  };
}

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
      for (const side of sides) {
        const [a, b] = look.term((s) => at(s.box[side], i) - at(s.box[side], j));
        if (Math.max(Math.abs(a), Math.abs(b)) <= OFF) continue;
        const subject = { kind: 'out-of-line', part: i, other: j, answerable: parent } as const;
        const { level, apart } = sideBySideTerms(look, i, j);
        for (const clear of apart) {
          look.allOver(subject, OFF, [[a, b]], [...level, clear]);
          look.allOver(subject, OFF, [[-a, -b]], [...level, clear]);
        }
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
      const isEven = a.every((gap, n) => {
        if (n === 0) return true;
        const [first, last] = [gap - (a[n - 1] as number), (b[n] as number) - (b[n - 1] as number)];
        return Math.max(Math.abs(first), Math.abs(last)) <= UNEVEN;
      });
      if (isEven) return;
      // In another line, or over each other: that is told as such.
      const inLine = a.map((gap, n): Term => [gap + SLACK, (b[n] as number) + SLACK]);
      const subject = { kind: 'uneven-gaps', part: parent, other: -1, answerable: parent } as const;
      for (let n = 1; n < a.length; n++) {
        const first = (a[n] as number) - (a[n - 1] as number);
        const last = (b[n] as number) - (b[n - 1] as number);
        look.allOver(subject, UNEVEN, [[first, last]], inLine);
        look.allOver(subject, UNEVEN, [[-first, -last]], inLine);
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
      const { first, last } = look;
      const [aboveThen, aboveNow] = [
        headStart(first.box.top, first.box.bottom, i, j),
        headStart(last.box.top, last.box.bottom, i, j),
      ];
      const [leftThen, leftNow] = [
        headStart(first.box.left, first.box.right, i, j),
        headStart(last.box.left, last.box.right, i, j),
      ];
      if (!(aboveThen > 0 || aboveNow > 0 || leftThen > 0 || leftNow > 0)) return;
      const subject = { kind: 'order', part: i, other: j, answerable: parent } as const;
      look.where(subject, [[aboveThen, aboveNow]]);
      if (leftThen > 0 || leftNow > 0)
        look.where(subject, [...sideBySideTerms(look, i, j).level, [leftThen, leftNow]]);
    },
  );

/** By how much one ends before another begins: over nought where it does. */
const headStart = (near: Float64Array, far: Float64Array, i: Index, j: Index): number =>
  at(near, i) + BEFORE - at(far, j);

/** Whether one stands wholly above another, or beside it on its line and further to the left. */
const isBefore = (s: Snapshot, i: Index, j: Index): boolean =>
  at(s.box.bottom, i) < at(s.box.top, j) + BEFORE ||
  (share(s, i, j, 'top', 'bottom') > 1 && at(s.box.right, i) < at(s.box.left, j) + BEFORE);
