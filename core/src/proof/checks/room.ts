import { ruleOf } from '../../model/index.js';
import { AXES, heightOf, SLACK, widthOf } from '../look.js';
import { each, type Check, type Plan } from '../plan.js';
import { rowCounts } from '../rows.js';
import { at, isShown, type Index, type Snapshot } from '../scene.js';

/** Targets smaller than this are hard to hit, px (WCAG 2.2 §2.5.8). */
const TARGET = 24;
/** A painted box with words or an icon, no larger than this in the drawing, is a button or a field, px. */
const BUTTON = { width: 320, height: 64 };
/** An area is empty where a part that was filled by more than `before` is by less than `now`, and so many px at least. */
const EMPTY = { before: 0.7, now: 0.4, px: 240 };
/** What is over a limit by less than this is so by rounding, px. */
const ROUNDING = 0.003;
/** A screen is lost when more than this share of what it showed is hidden. */
const LOST = 0.4;

/** One card alone in the last row where the rows before hold several. */
export const lonelyCards: Check = (plan) =>
  each(
    plan.shown.flatMap((parent) => {
      const flow = ruleOf(plan.part(parent).rules, 'flow');
      const kids = flow === 'wrap' || flow === 'grid' ? plan.inFlow(parent) : [];
      if (kids.length < 3 || !areCards(plan, kids)) return [];
      const drawing = plan.drawn(...kids);
      return drawing && isLastAlone(drawing, kids) ? [] : [{ parent, kids }];
    }),
    (look, { parent, kids }) => {
      const last = kids.at(-1) as Index;
      const [first, then] = [isLastAlone(look.first, kids), isLastAlone(look.last, kids)];
      const subject = { kind: 'lonely-card', part: last, other: -1, answerable: parent } as const;
      if (first && then) look.throughout(subject, 1);
      else if (first !== then) {
        const { from, to } = look.stretch;
        for (let width = from; width <= to; width++) {
          const one = look.within(width, width);
          if (isLastAlone(one.first, kids)) one.throughout(subject, 1);
        }
      }
    },
  );

function isLastAlone(s: Snapshot, kids: readonly Index[]): boolean {
  const counts = rowCounts(s, kids);
  return counts.length > 1 && counts.at(-1) === 1 && (counts.at(-2) ?? 0) > 1;
}

/** Boxes of one make-up, not words that wrap. */
function areCards(plan: Plan, kids: readonly Index[]): boolean {
  const parts = kids.map((k) => plan.part(k));
  const [first] = parts;
  return parts.every(
    (p) =>
      p.kind === 'container' && p.pattern === first?.pattern && p.children.length === first?.children.length,
  );
}

/** Painted boxes that are narrower than their content can be. */
export const squashed: Check = (plan) =>
  each(
    plan.shown
      .filter((i) => plan.part(i).kind === 'container' && plan.isPainted(i) && !plan.part(i).rules.scroll)
      .map((i) => ({ i, least: plan.intrinsic.content(plan.part(i)).min })),
    (look, { i, least }) => {
      look.over(
        { kind: 'squashed', part: i, other: -1, answerable: plan.parent(i) },
        SLACK,
        least - widthOf(look.first, i),
        least - widthOf(look.last, i),
      );
    },
  );

/** Buttons and fields that are too small to hit. */
export const smallTargets: Check = (plan) =>
  each(
    plan.shown.filter((i) => {
      const part = plan.part(i);
      const drawing = plan.isPainted(i) && part.kind === 'container' ? plan.drawn(i) : undefined;
      const holds = part.children.some((c) => c.kind === 'text' || c.content?.kind === 'art');
      return drawing && holds && widthOf(drawing, i) <= BUTTON.width && heightOf(drawing, i) <= BUTTON.height;
    }),
    (look, i) => {
      const subject = { kind: 'small-target', part: i, other: -1, answerable: i } as const;
      look.over(subject, SLACK, ...look.term((s) => TARGET - widthOf(s, i)));
      look.over(subject, SLACK, ...look.term((s) => TARGET - heightOf(s, i)));
    },
  );

/** Painted boxes that were full in the drawing, and hold a large area of nothing. */
export const emptyAreas: Check = (plan) =>
  each(
    plan.shown.flatMap((i) => {
      const kids = i > 0 && plan.isPainted(i) ? plan.inFlow(i) : [];
      const drawing = kids.length > 0 ? plan.drawn(i, ...kids) : undefined;
      if (!drawing) return [];
      return AXES.flatMap(([near, far]) => {
        const whole = (s: Snapshot) => at(s.box[far], i) - at(s.box[near], i);
        const filled = (s: Snapshot) =>
          Math.max(...kids.map((k) => at(s.box[far], k))) - Math.min(...kids.map((k) => at(s.box[near], k)));
        return filled(drawing) >= EMPTY.before * whole(drawing) ? [{ i, whole, filled }] : [];
      });
    }),
    (look, { i, whole, filled }) => {
      look.allOver({ kind: 'empty-area', part: i, other: -1, answerable: i }, EMPTY.px + ROUNDING, [
        look.term((s) => whole(s) - filled(s)),
        // Over the limit as well where the share that is filled is under its own.
        look.term((s) => EMPTY.px + EMPTY.now * whole(s) - filled(s)),
      ]);
    },
  );

/** What the drawing shows and this width does not, while nothing else has come in its place. */
export const hiddenParts: Check = (plan) => {
  const [nearest] = plan.references;
  if (!nearest) return undefined;
  const was = (i: Index) => isShown(nearest.shot, i);
  const isItem = (i: Index) => plan.part(i).content !== undefined || plan.part(i).source.length > 0;
  const all = plan.scene.parts.map((_, i) => i);
  const before = all.filter((i) => isItem(i) && was(i));
  const hidden = before.filter((i) => !plan.isShown(i));
  const outermost = all.filter((i) => i > 0 && was(i) && !plan.isShown(i) && plan.isShown(plan.parent(i)));
  // A stand-in comes beside it, or beside what holds it.
  const cameBeside = (parent: Index) => plan.children(parent).some((c) => !was(c) && plan.isShown(c));
  const missed = outermost.filter((i) => ![plan.parent(i), plan.parent(plan.parent(i))].some(cameBeside));
  const isLost = hidden.length > before.length * LOST;
  if (!isLost && missed.length === 0) return undefined;
  return (look) => {
    if (isLost) look.throughout({ kind: 'lost', part: 0, other: -1, answerable: 0 }, hidden.length);
    for (const i of missed)
      look.throughout({ kind: 'hidden', part: i, other: -1, answerable: plan.parent(i) }, 1);
  };
};
