import {
  FILL,
  findPart,
  fixed,
  NO_PADDING,
  pathTo,
  right,
  round,
  ruleOf,
  standing,
  type Edges,
  type Part,
  type Rect,
  type RuleChange,
  type Step,
  type Structure,
} from '../../model/index.js';
import type { Fault } from '../../proof/index.js';
import { inside, rangeOf, saidThere, SMALL, WIDE_GAP, type Change, type Drawn } from './otherSizes.js';

/** How far into what is answerable parts are looked for that may be held otherwise. */
const DEPTH = 2;

/** A side of a container's content that something stands off by less is at that side, px. */
const AT = 1;

/** Other places and sides that the parts around a fault may be held at, as steps: each stands as drawn at the drawn widths. */
export function* heldOtherwise(structure: Structure, fault: Fault, drawn: Drawn): Generator<Step> {
  const { width } = fault.place;
  const root = standing(structure, { width });
  const said = (id: string): Part | undefined => findPart(structure.root, id);
  const at = findPart(root, fault.answerable);
  if (!at) return;
  const boxOf = (part: Part): Rect | undefined => drawn(part.id, rangeOf(said(part.id), 'width', width));
  const both = fault.parts.flatMap((id) => heldAtBoth(pathTo(root, id), boxOf));
  if (both.length > 0) yield saidThere(structure.root, both, width);
  for (const part of inside(at, DEPTH)) {
    for (const child of part.children) {
      const inset = insetInstead(said(part.id), said(child.id), drawn);
      if (inset) yield inset;
    }
    const apart = endsApart(part, boxOf);
    if (apart.length > 0) yield saidThere(structure.root, apart, width);
  }
}

/** What hangs at one side of its container and spans most of it, as wide as drawn: it may keep its distances to both sides. */
function heldAtBoth(path: readonly Part[], boxOf: (part: Part) => Rect | undefined): Change[] {
  const [parent, part] = path.slice(-2);
  const pin = part?.rules.pin;
  if (!parent || !part || !pin || part.rules.width?.kind !== 'fixed') return [];
  if ((pin.left === undefined) === (pin.right === undefined)) return [];
  const [box, outer] = [boxOf(part), boxOf(parent)];
  if (!box || !outer || box.width <= Math.max(SMALL, outer.width / 2)) return [];
  const sides = { left: round(box.x - outer.x, 2), right: round(right(outer) - right(box), 2) };
  return [[part, { pin: { ...pin, ...sides }, width: FILL }]];
}

/** A child of a column that a limit keeps from one of its sides may be kept from it by a padding instead, in all frames. */
function insetInstead(column: Part | undefined, child: Part | undefined, drawn: Drawn): Step | undefined {
  if (!column || child?.kind !== 'container' || ruleOf(column.rules, 'flow') !== 'column') return undefined;
  const { rules, below = [] } = child;
  const [outer, box] = [drawn(column.id), drawn(child.id)];
  if (!outer || !box || rules.pin || rules.width?.kind !== 'fill' || typeof rules.maxWidth !== 'number')
    return undefined;
  const { left, right: end } = column.rules.padding ?? NO_PADDING;
  const before = box.x - outer.x - left;
  const after = right(outer) - end - right(box);
  // In the middle it is a limit.
  if (before < AT || Math.abs(before - after) <= AT) return undefined;
  const inset = (padding: Edges): Edges => ({
    ...padding,
    left: round(padding.left + before, 2),
    right: round(padding.right + Math.max(0, after), 2),
  });
  const padded = (set: RuleChange, below?: number): Step => ({
    kind: 'setRules',
    parts: [{ id: child.id, set }],
    ...(below !== undefined && { below }),
  });
  const open = {
    padding: inset(rules.padding ?? NO_PADDING),
    maxWidth: null,
    minWidth: null,
    alignSelf: null,
  };
  return {
    kind: 'several',
    steps: [
      padded(open),
      ...below.flatMap((o) =>
        o.rules.padding ? [padded({ padding: inset(o.rules.padding) }, o.width)] : [],
      ),
    ],
  };
}

/** A row with a wide gap in which something fills: it may be as wide as drawn, and the gap what is left. */
function endsApart(part: Part, boxOf: (part: Part) => Rect | undefined): Change[] {
  const { gap, flow } = part.rules;
  if (flow !== 'row' || typeof gap !== 'number' || gap <= WIDE_GAP) return [];
  const filling = part.children.filter((c) => !c.rules.pin && c.rules.width?.kind === 'fill');
  const sizes = filling.flatMap((c): Change[] => {
    const box = boxOf(c);
    return box ? [[c, { width: fixed(round(box.width, 2)) }]] : [];
  });
  return sizes.length > 0 ? [[part, { gap: 'between' }], ...sizes] : [];
}
