import {
  findPart,
  fixed,
  NO_PADDING,
  parentOf,
  round,
  walk,
  type Edges,
  type Part,
  type Pin,
  type Rect,
  type RuleChange,
  type Size,
  type Step,
  type Structure,
} from '../model/index.js';
import { leastMoving, none, type Answer } from './least.js';
import { standingOf, type Bench } from './stands.js';

/** Gives a part the height that keeps the ratio in which it stands. */
export function lockRatio(structure: Structure, id: string, bench: Bench): Answer {
  const part = findPart(structure.root, id);
  const box = standingOf(structure, bench)[0]?.get(id);
  if (!part || !box || box.width < 1 || box.height < 1)
    return none('A ratio is taken from a part that is shown and has a size.');
  const height: Size = { kind: 'ratio', width: round(box.width, 2), height: round(box.height, 2) };
  const step: Step = { kind: 'setRules', parts: [{ id, set: { height } }] };
  return leastMoving(structure, bench, `Keep the ratio of “${part.name}”`, [{ step }], id);
}

const inner = (box: Rect, padding: Edges = NO_PADDING): Rect => ({
  x: box.x + padding.left,
  y: box.y + padding.top,
  width: box.width - padding.left - padding.right,
  height: box.height - padding.top - padding.bottom,
});

const SIDES = [
  ['left', 'leftShare', 'width'],
  ['right', 'rightShare', 'width'],
  ['top', 'topShare', 'height'],
  ['bottom', 'bottomShare', 'height'],
] as const;

/** A pin with the distances of its edges said otherwise; `undefined` leaves one as it is. */
function pinWith(pin: Pin, say: (side: (typeof SIDES)[number]) => Partial<Pin> | undefined): Pin {
  let changed: Pin = pin;
  for (const side of SIDES) {
    const said = say(side);
    if (!said) continue;
    const [edge, share] = side;
    const rest = Object.entries(changed).filter(([name]) => name !== edge && name !== share);
    changed = { ...Object.fromEntries(rest), ...said };
  }
  return changed;
}

/** A pin whose distances are shares of what it hangs in. */
const sharedPin = (pin: Pin, outer: Rect): Pin =>
  pinWith(pin, ([edge, share, axis]) => {
    const px = pin[edge];
    if (px === undefined || outer[axis] <= 0) return undefined;
    return { [share]: round((pin[share] ?? 0) + (px / outer[axis]) * 100, 3) };
  });

/** Turns px into shares of what holds them, for a part and all that is in it, or back. */
export function inShares(structure: Structure, id: string, bench: Bench, back = false): Answer {
  const part = findPart(structure.root, id);
  const places = standingOf(structure, bench)[0];
  if (!part || !places || id === structure.root.id) return none('Choose a part in the frame.');
  const parts = [...walk(part)].flatMap((p) => {
    const parent = parentOf(structure.root, p.id);
    const [box, outer] = [places.get(p.id), places.get(parent?.id ?? '')];
    if (!parent || !box || !outer) return [];
    const set = back ? inPx(p, box, outer) : asShares(p, outer, inner(outer, parent.rules.padding));
    return Object.keys(set).length > 0 ? [{ id: p.id, set }] : [];
  });
  if (parts.length === 0)
    return none(
      back ? `Nothing in “${part.name}” is a share.` : `Nothing in “${part.name}” is a number of px.`,
    );
  const label = back ? `Shares of “${part.name}” in px` : `“${part.name}” in shares of what holds it`;
  return leastMoving(structure, bench, label, [{ step: { kind: 'setRules', parts } }], id);
}

function asShares({ rules }: Part, outer: Rect, room: Rect): RuleChange {
  const { width, pin } = rules;
  const within = pin ? outer : room;
  const changed = pin && sharedPin(pin, outer);
  return {
    ...(width?.kind === 'fixed' &&
      within.width > 0 && { width: { kind: 'share', percent: round((width.px / within.width) * 100, 3) } }),
    ...(changed && changed !== pin && { pin: changed }),
  };
}

function inPx({ rules }: Part, box: Rect, outer: Rect): RuleChange {
  const { width, height, pin } = rules;
  const changed =
    pin &&
    pinWith(pin, ([edge, share, axis]) => {
      const percent = pin[share];
      if (percent === undefined) return undefined;
      return { [edge]: round((pin[edge] ?? 0) + (percent / 100) * outer[axis], 2) };
    });
  return {
    ...(width?.kind === 'share' && { width: fixed(round(box.width, 2)) }),
    ...(height?.kind === 'share' && { height: fixed(round(box.height, 2)) }),
    ...(changed && changed !== pin && { pin: changed }),
  };
}

/** What is scaled together: the four paddings of a part, or all gaps in it. */
export type Spaces = 'padding' | 'gaps';

/** Scales the paddings of a part, or all gaps in it, to whole px. */
export function scaleSpaces(
  structure: Structure,
  id: string,
  spaces: Spaces,
  factor: number,
  bench: Bench,
): Answer {
  const part = findPart(structure.root, id);
  if (!part || !(factor >= 0) || factor > 10) return none('Spaces are scaled by a factor from 0 to 10.');
  const scaled = (n: number): number => Math.round(n * factor);
  const change = ({ rules }: Part): RuleChange => ({
    ...(typeof rules.gap === 'number' && { gap: scaled(rules.gap) }),
    ...(rules.crossGap !== undefined && { crossGap: scaled(rules.crossGap) }),
    ...(rules.gapBefore !== undefined && { gapBefore: scaled(rules.gapBefore) }),
  });
  const { padding } = part.rules;
  const parts =
    spaces === 'gaps'
      ? [...walk(part)]
          .map((p) => ({ id: p.id, set: change(p) }))
          .filter((c) => Object.keys(c.set).length > 0)
      : padding
        ? [
            {
              id,
              set: {
                padding: {
                  top: scaled(padding.top),
                  right: scaled(padding.right),
                  bottom: scaled(padding.bottom),
                  left: scaled(padding.left),
                },
              },
            },
          ]
        : [];
  if (parts.length === 0)
    return none(`“${part.name}” has no ${spaces === 'gaps' ? 'gaps' : 'padding'} to scale.`);
  const label = `${spaces === 'gaps' ? 'All gaps' : 'The padding'} of “${part.name}” times ${factor}`;
  return leastMoving(structure, bench, label, [{ step: { kind: 'setRules', parts } }], id);
}
