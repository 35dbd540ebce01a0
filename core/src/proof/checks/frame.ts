import { ruleOf } from '../../model/index.js';
import { beyond, SIDES, SLACK, type Look } from '../look.js';
import type { Term } from '../linear.js';
import { at, type Index } from '../scene.js';

const isMainAxis = (flow: string | undefined): boolean => flow === 'row' || flow === 'grid' || flow === 'wrap';

/**
 * The container that is answerable for a part which sticks out of the frame: the outermost part around it that sticks
 * out, too; or, where that one shares a line with others, what holds the line.
 */
function answerableFor(look: Look, part: Index, sticksOut: (i: Index) => boolean): Index {
  const { parents } = look.scene;
  let outermost = part;
  for (let i = parents[part] ?? -1; i > 0; i = parents[i] ?? -1) if (sticksOut(i)) outermost = i;
  const parent = parents[outermost] ?? -1;
  if (parent < 0) return outermost;
  const inLine = isMainAxis(ruleOf(look.part(parent).rules, 'flow')) && !look.part(outermost).rules.pin;
  return inLine || look.part(outermost).kind !== 'container' ? parent : outermost;
}

/** Content wider than the frame: the page scrolls sideways (CSS Overflow 3 §2.2), or what is at the start is lost. */
export function sideScroll(look: Look): void {
  const { stretch, scene } = look;
  const { first, last } = stretch;
  const past = (i: Index, side: 'left' | 'right'): Term =>
    side === 'right'
      ? [at(first.ink.right, i) - first.width, at(last.ink.right, i) - last.width]
      : [-at(first.ink.left, i), -at(last.ink.left, i)];
  for (const side of ['right', 'left'] as const) {
    const sticksOut = (i: Index) => past(i, side).some((n) => n > SLACK);
    for (const i of look.shown()) {
      if (i === 0 || !sticksOut(i)) continue;
      // Of a part and what is in it the innermost is told.
      if ((scene.children[i] ?? []).some((c) => sticksOut(c))) continue;
      const clipper = scene.clippers[i] ?? -1;
      look.over(
        { kind: 'side-scroll', part: i, other: -1, answerable: answerableFor(look, i, sticksOut) },
        SLACK,
        past(i, side),
        ...(clipper > 0 ? [past(clipper, side)] : []),
      );
    }
  }
}

/** Parts beyond their parent's box, which shows where that is painted. */
export function outside(look: Look): void {
  const { stretch, scene } = look;
  for (const i of look.shown()) {
    const parent = scene.parents[i] ?? -1;
    if (parent < 0) continue;
    const { rules, paint } = look.part(parent);
    if (rules.clip || rules.scroll) continue;
    const severity = paint?.fill || paint?.stroke ? 'error' : 'note';
    for (const { box, sign } of SIDES) {
      const term = beyond(stretch, box, i, box, parent, sign);
      look.over({ kind: 'outside', severity, part: i, other: parent, answerable: parent }, SLACK, term);
    }
  }
}

/** What reaches out of a container that shows nothing beyond its edges. */
export function cutOff(look: Look): void {
  const { stretch, scene } = look;
  for (const i of look.shown()) {
    const clipper = scene.clippers[i] ?? -1;
    if (clipper < 0 || !look.part(clipper).rules.clip || look.part(clipper).rules.scroll) continue;
    const { kind, paint, content } = look.part(i);
    if (kind === 'container' && !paint?.fill && !content) continue;
    const severity = kind === 'text' ? 'error' : 'warning';
    for (const { box, ink, sign } of SIDES) {
      const term = beyond(stretch, ink, i, box, clipper, sign);
      look.over({ kind: 'cut-off', severity, part: i, other: clipper, answerable: clipper }, SLACK, term);
    }
  }
}

