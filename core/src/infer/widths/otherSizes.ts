import {
  FILL,
  pathTo,
  round,
  ruleOf,
  type Part,
  type Pin,
  type Rect,
  type RuleChange,
  type Step,
  type Structure,
} from '../../model/index.js';
import type { Fault } from '../../proof/index.js';

/** What is no larger keeps its size whatever stands around it: icons, faces, tags (WCAG 2.2 §2.5.5 gives 44 px to a finger), px. */
const SMALL = 64;
/** A gap that is wider than any that designers set between things that belong together, px. */
const WIDE_GAP = 32;
/** How far into what is answerable other sizes are looked for. */
const DEPTH = 3;
/** No more parts are looked at. */
const MOST_PARTS = 40;

/**
 * Other sizes and gaps that the parts around a fault may have been drawn with, as steps that hold in all frames. `drawn` is where
 * a part stands in the drawing.
 */
export function* otherSizes(
  structure: Structure,
  fault: Fault,
  drawn: (id: string) => Rect | undefined,
): Generator<Step> {
  const path = pathTo(structure.root, fault.answerable);
  const at = path.at(-1);
  if (!at) return;
  yield* scaled(at, drawn);
  const parts = [...path.slice(1, -1), ...inside(at, DEPTH)].slice(0, MOST_PARTS);
  for (const part of parts) {
    yield* otherWidth(part);
    yield* otherRow(part);
  }
}

function inside(part: Part, depth: number): Part[] {
  return depth === 0
    ? [part]
    : [part, ...part.children.filter((c) => !c.rules.pin).flatMap((c) => inside(c, depth - 1))];
}

/** What hangs in a container without a flow, as far from its start as it is wide: it scales with it, as a chart does. */
function* scaled(part: Part, drawn: (id: string) => Rect | undefined): Generator<Step> {
  const outer = drawn(part.id);
  if (ruleOf(part.rules, 'flow') !== 'free' || !outer || outer.width <= 0) return;
  const share = (px: number) => round((px / outer.width) * 100, 3);
  const changes = part.children.flatMap((child): [Part, RuleChange][] => {
    const box = drawn(child.id);
    const { pin, width } = child.rules;
    if (!box || pin?.left === undefined) return [];
    const { left: _left, right: _right, ...rest } = pin;
    const shared: Pin = {
      ...rest,
      leftShare: share(box.x - outer.x),
      ...(pin.right !== undefined && { rightShare: share(outer.x + outer.width - box.x - box.width) }),
    };
    const percent = width?.kind === 'fixed' && width.px > SMALL ? share(width.px) : undefined;
    return [[child, { pin: shared, ...(percent !== undefined && { width: { kind: 'share', percent } }) }]];
  });
  if (changes.length > 1) yield setting(changes);
}

const setting = (changes: readonly (readonly [Part, RuleChange])[]): Step => ({
  kind: 'setRules',
  parts: changes.map(([part, set]) => ({ id: part.id, set })),
});

function* otherWidth(part: Part): Generator<Step> {
  const { width, minWidth } = part.rules;
  const isSmall = part.kind !== 'container' && width?.kind === 'fixed' && width.px <= SMALL;
  if (width?.kind === 'fixed' && !isSmall) {
    yield setting([[part, { width: FILL, minWidth: null }]]);
    yield setting([[part, { width: FILL, minWidth: null, maxWidth: width.px }]]);
  }
  if (minWidth !== undefined) yield setting([[part, { minWidth: null }]]);
  if (part.kind === 'text' && (width === undefined || width.kind === 'fit'))
    yield setting([[part, { width: FILL }]]);
}

function* otherRow(part: Part): Generator<Step> {
  const { gap, flow } = part.rules;
  const children = part.children.filter((c) => !c.rules.pin);
  if (flow !== 'row' || children.length < 2) return;
  const wide = children.filter((c) => c.rules.width?.kind === 'fixed' && c.rules.width.px > SMALL);
  if (typeof gap === 'number' && gap > WIDE_GAP) {
    const odd = children.filter((c) => c.rules.gapBefore !== undefined);
    yield setting([[part, { gap: 'between' }], ...odd.map((c) => [c, { gapBefore: null }] as const)]);
  }
  if (wide.length > 1) yield setting(wide.map((c) => [c, { width: FILL, minWidth: null }] as const));
}
