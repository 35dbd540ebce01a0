import {
  FILL,
  FIT,
  findPart,
  pathTo,
  round,
  standing,
  type Part,
  type Pin,
  type Rect,
  type RuleChange,
  type RuleName,
  type Step,
  type Structure,
} from '../../model/index.js';
import type { Fault } from '../../proof/index.js';

/** What is no larger keeps its size whatever stands around it: icons, faces, tags (WCAG 2.2 §2.5.5 gives 44 px to a finger), px. */
export const SMALL = 64;
/** A gap that is wider than any that designers set between things that belong together, px. */
export const WIDE_GAP = 32;
/** How far into what is answerable other sizes are looked for. */
const DEPTH = 3;
/** No more parts are looked at. */
const MOST_PARTS = 40;

export type Change = readonly [part: Part, set: RuleChange];

/**
 * Where a part stands in the drawing that what holds below a breakpoint comes from, or, without one, in the widest.
 */
export type Drawn = (id: string, below?: number) => Rect | undefined;

/**
 * Other sizes and gaps that the parts around a fault may have been drawn with, as steps that hold in all frames.
 */
export function* otherSizes(structure: Structure, fault: Fault, drawn: Drawn): Generator<Step> {
  const { width } = fault.place;
  const path = pathTo(standing(structure, { width }), fault.answerable);
  const at = path.at(-1);
  if (!at) return;
  const around = path.slice(-2).flatMap((part) => [...scaled(part, structure.root, width, drawn)]);
  for (const changes of [...around, ...sizesAround(path, at)])
    yield saidThere(structure.root, changes, width);
}

function* sizesAround(path: readonly Part[], at: Part): Generator<readonly Change[]> {
  const parts = [...path.slice(1, -1), ...inside(at, DEPTH)].slice(0, MOST_PARTS);
  for (const part of parts) {
    yield* otherWidth(part);
    yield* otherRow(part);
  }
}

/** The breakpoint below which a part says a rule for a frame of some width; undefined for one that holds in all frames. */
export const rangeOf = (part: Part | undefined, name: RuleName, width: number): number | undefined =>
  part?.below?.findLast((o) => o.width > width && name in o.rules)?.width;

/** Changes as a step: each rule is said where it is said by now for a frame of this width, below a breakpoint or for all. */
export function saidThere(root: Part, changes: readonly Change[], width: number): Step {
  const byRange = new Map<number | undefined, Change[]>();
  for (const [part, set] of changes) {
    const said = findPart(root, part.id);
    const names = Object.keys(set) as RuleName[];
    const ranges = new Map(names.map((name) => [name, rangeOf(said, name, width)]));
    for (const range of new Set(ranges.values())) {
      const own = Object.fromEntries(names.filter((n) => ranges.get(n) === range).map((n) => [n, set[n]]));
      byRange.set(range, [...(byRange.get(range) ?? []), [part, own]]);
    }
  }
  const steps = [...byRange].map(([below, own]): Step => ({
    kind: 'setRules',
    parts: own.map(([part, set]) => ({ id: part.id, set })),
    ...(below !== undefined && { below }),
  }));
  return steps.length === 1 ? (steps[0] as Step) : { kind: 'several', steps };
}

export function inside(part: Part, depth: number): Part[] {
  return depth === 0
    ? [part]
    : [part, ...part.children.filter((c) => !c.rules.pin).flatMap((c) => inside(c, depth - 1))];
}

/**
 * What hangs in a container at a distance from its start, as far from it in share as it was drawn: it scales with the container, as
 * what hangs in a chart does.
 */
function* scaled(part: Part, root: Part, width: number, drawn: Drawn): Generator<readonly Change[]> {
  const changes = part.children.flatMap((child): Change[] => {
    const { pin } = child.rules;
    const range = rangeOf(findPart(root, child.id), 'pin', width);
    const [box, outer] = [drawn(child.id, range), drawn(part.id, range)];
    if (!box || !outer || outer.width <= 0 || pin?.left === undefined || pin.left < 1) return [];
    const share = (px: number) => round((px / outer.width) * 100, 3);
    const { left: _left, right: _right, ...rest } = pin;
    const shared: Pin = {
      ...rest,
      leftShare: share(box.x - outer.x),
      ...(pin.right !== undefined && { rightShare: share(outer.x + outer.width - box.x - box.width) }),
    };
    const own = child.rules.width;
    const percent = own?.kind === 'fixed' && own.px > SMALL ? share(own.px) : undefined;
    return [[child, { pin: shared, ...(percent !== undefined && { width: { kind: 'share', percent } }) }]];
  });
  if (changes.length > 0) yield changes;
}

function* otherWidth(part: Part): Generator<readonly Change[]> {
  const { width, height, minWidth } = part.rules;
  const isSmall = part.kind !== 'container' && width?.kind === 'fixed' && width.px <= SMALL;
  if (width?.kind === 'fixed' && !isSmall) {
    yield [[part, { width: FILL, minWidth: null }]];
    yield [[part, { width: FILL, minWidth: null, maxWidth: width.px }]];
    if (height?.kind === 'fixed' && (part.content?.kind === 'art' || part.content?.kind === 'picture')) {
      const ratio = { kind: 'ratio', width: width.px, height: height.px } as const;
      yield [[part, { width: FILL, minWidth: null, maxWidth: width.px, height: ratio }]];
    }
  }
  if (minWidth !== undefined) yield [[part, { minWidth: null }]];
  if (part.kind === 'text' && (width === undefined || width.kind === 'fit')) yield [[part, { width: FILL }]];
}

function* otherRow(part: Part): Generator<readonly Change[]> {
  const { gap, flow } = part.rules;
  const children = part.children.filter((c) => !c.rules.pin);
  if ((flow !== 'row' && flow !== 'wrap') || children.length < 2) return;
  const filling = children.filter((c) => c.rules.width?.kind === 'fill' && c.kind !== 'shape');
  if (filling.length === 1) yield filling.map((c): Change => [c, { width: FIT }]);
  if (flow === 'wrap') return;
  const wide = children.filter((c) => c.rules.width?.kind === 'fixed' && c.rules.width.px > SMALL);
  if (typeof gap === 'number' && gap > WIDE_GAP) {
    const odd = children.filter((c) => c.rules.gapBefore !== undefined);
    yield [[part, { gap: 'between' }], ...odd.map((c) => [c, { gapBefore: null }] as const)];
  }
  if (wide.length > 1) {
    const even = wide.map((c): Change => [c, { width: FILL, minWidth: null }]);
    yield even;
    // What is off its grid has gaps that are off by as much.
    yield [...even, ...children.map((c): Change => [c, { gapBefore: null }])];
  }
}
