import { FILL, pathTo, type Part, type RuleChange, type Step, type Structure } from '../../model/index.js';
import type { Fault } from '../../proof/index.js';

/** What is no larger keeps its size whatever stands around it: icons, faces, tags (WCAG 2.2 §2.5.5 gives 44 px to a finger), px. */
const SMALL = 64;
/** A gap that is wider than any that designers set between things that belong together, px. */
const WIDE_GAP = 32;
/** How far into what is answerable other sizes are looked for. */
const DEPTH = 3;
/** No more parts are looked at. */
const MOST_PARTS = 40;

/** Other sizes and gaps that the parts around a fault may have been drawn with, as steps that hold in all frames. */
export function* otherSizes(structure: Structure, fault: Fault): Generator<Step> {
  const path = pathTo(structure.root, fault.answerable);
  const at = path.at(-1);
  if (!at) return;
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
