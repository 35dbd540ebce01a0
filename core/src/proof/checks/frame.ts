import { ruleOf } from '../../model/index.js';
import { crossing, type Term } from '../linear.js';
import { SIDES, SLACK, type Look } from '../look.js';
import { each, type Check, type Plan } from '../plan.js';
import { at, type Index } from '../scene.js';

/**
 * The container that is answerable for a part which sticks out of the frame: the outermost part around it that sticks
 * out, too; or, where that one shares a line with others, what holds the line.
 */
function answerableFor(plan: Plan, part: Index, sticksOut: (i: Index) => boolean): Index {
  let outermost = part;
  for (let i = plan.parent(part); i > 0; i = plan.parent(i)) if (sticksOut(i)) outermost = i;
  const parent = plan.parent(outermost);
  const flow = ruleOf(plan.part(parent).rules, 'flow');
  const inLine = flow !== 'column' && flow !== 'free' && !plan.part(outermost).rules.pin;
  return inLine || plan.part(outermost).kind !== 'container' ? parent : outermost;
}

/** By how much a part reaches past a side of the frame. */
const past = ({ first, last }: Look, i: Index, side: 'left' | 'right'): Term =>
  side === 'right'
    ? [at(first.ink.right, i) - first.width, at(last.ink.right, i) - last.width]
    : [-at(first.ink.left, i), -at(last.ink.left, i)];

/** Content wider than the frame: the page scrolls sideways (CSS Overflow 3 §2.2), or what is at the start is lost. */
export const sideScroll: Check = (plan) => (look) => {
  const { from, to } = look.stretch;
  for (const side of ['right', 'left'] as const) {
    const out: Index[] = [];
    const cuts = new Set<number>();
    const { first, last } = look;
    const [a, b] = [first.ink[side], last.ink[side]];
    const [mostA, mostB] = side === 'right' ? [first.width + SLACK, last.width + SLACK] : [SLACK, SLACK];
    const sign = side === 'right' ? 1 : -1;
    for (const i of plan.shown) {
      if (i === 0 || (!(at(a, i) * sign > mostA) && !(at(b, i) * sign > mostB))) continue;
      out.push(i);
      const cut = crossing(past(look, i, side), SLACK, from, to);
      if (cut !== undefined) cuts.add(cut);
    }
    if (out.length === 0) continue;
    // Between two cuts the same parts stick out, so that one container is answerable.
    const starts = [from, ...[...cuts].sort((a, b) => a - b)];
    starts.forEach((start, n) => {
      const end = (starts[n + 1] ?? to + 1) - 1;
      if (end >= start) sticking(plan, starts.length === 1 ? look : look.within(start, end), out, side);
    });
  }
};

function sticking(plan: Plan, look: Look, candidates: readonly Index[], side: 'left' | 'right'): void {
  const sticksOut = (i: Index) => past(look, i, side).every((n) => n > SLACK);
  for (const i of candidates) {
    // Of a part and what is in it the innermost is told.
    if (!sticksOut(i) || plan.children(i).some(sticksOut)) continue;
    const clipper = plan.clipper(i);
    look.allOver(
      { kind: 'side-scroll', part: i, other: -1, answerable: answerableFor(plan, i, sticksOut) },
      SLACK,
      [past(look, i, side), ...(clipper > 0 ? [past(look, clipper, side)] : [])],
    );
  }
}

/** Parts beyond their parent's box, which shows where that is painted. */
export const outside: Check = (plan) => {
  const count = plan.scene.parts.length;
  const inside = plan.shown.filter((i) => {
    const { rules } = plan.part(plan.parent(i));
    return i > 0 && !rules.clip && !rules.scroll;
  });
  return each(inside, (look, i) => {
    const parent = plan.parent(i);
    const [a, b] = [look.first.box.all, look.last.box.all];
    // The edges stand in the list one after the other: left, top, right, bottom.
    for (let side = 0; side < 4; side++) {
      const [own, around] = [side * count + i, side * count + parent];
      const from = side < 2 ? at(a, around) - at(a, own) : at(a, own) - at(a, around);
      const to = side < 2 ? at(b, around) - at(b, own) : at(b, own) - at(b, around);
      if (!(from > SLACK) && !(to > SLACK)) continue;
      const severity = plan.isPainted(parent) ? 'error' : 'note';
      look.over({ kind: 'outside', severity, part: i, other: parent, answerable: parent }, SLACK, from, to);
    }
  });
};

/** What reaches out of a container that shows nothing beyond its edges. */
export const cutOff: Check = (plan) =>
  each(
    plan.shown.filter((i) => {
      const { rules } = plan.part(plan.clipper(i) < 0 ? i : plan.clipper(i));
      const { kind, content } = plan.part(i);
      const isSeen = kind !== 'container' || content !== undefined || plan.isPainted(i);
      return plan.clipper(i) >= 0 && rules.clip === true && !rules.scroll && isSeen;
    }),
    (look, i) => {
      const clipper = plan.clipper(i);
      const severity = plan.part(i).kind === 'text' ? 'error' : 'warning';
      for (const [side, sign] of SIDES) {
        const out = look.term((s) => (at(s.ink[side], i) - at(s.box[side], clipper)) * sign);
        look.over({ kind: 'cut-off', severity, part: i, other: clipper, answerable: clipper }, SLACK, ...out);
      }
    },
  );
