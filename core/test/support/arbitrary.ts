import fc from 'fast-check';
import { check, type Content, type Part, type PartKind, type Rules, type Size } from '@tinfold/core/model';
import { words } from './build.js';

const px = (min: number, max: number) => fc.integer({ min, max });
const some = <T>(arb: fc.Arbitrary<T>, freq = 2) => fc.option(arb, { nil: undefined, freq });

const fixedSize = px(0, 260).map((n): Size => ({ kind: 'fixed', px: n }));
const fit = fc.constant<Size>({ kind: 'fit' });
const fill = fc.constantFrom(1, 1, 1, 2, 3).map((weight): Size => ({ kind: 'fill', weight }));
const share = fc.constantFrom(10, 25, 33, 50, 80).map((percent): Size => ({ kind: 'share', percent }));

const WORDS = [
  'Marrow Isle',
  'Low Tarn',
  'Leaves 14:20 from pier 2',
  'Deck space for eighteen cars and a bus',
  'Full',
  'Ellin Skerry by the north ramp until five minutes before',
];

const edges = fc.record({ top: px(0, 24), right: px(0, 24), bottom: px(0, 24), left: px(0, 24) });

/** Drops undefined values, which rules do not have. */
const tidy = (rules: Record<string, unknown>): Rules =>
  Object.fromEntries(Object.entries(rules).filter(([, v]) => v !== undefined));

const align = fc.constantFrom('start', 'centre', 'end', 'stretch', 'baseline');

const containerRules = fc
  .record({
    flow: fc.constantFrom('column', 'column', 'row', 'row', 'wrap', 'grid'),
    gap: some(fc.oneof(px(0, 30), fc.constantFrom('between', 'around', 'evenly'))),
    overlap: fc.boolean(),
    crossGap: some(px(0, 30)),
    padding: some(edges),
    align: some(align),
    justify: some(fc.constantFrom('start', 'centre', 'end')),
    repeat: px(60, 240),
    most: some(px(1, 4)),
    count: px(1, 4),
    repeats: fc.boolean(),
  })
  .map(({ flow, overlap, repeat, most, count, repeats, ...rules }): Record<string, unknown> => {
    const gap = flow === 'grid' && typeof rules.gap === 'string' ? 12 : rules.gap;
    const negative = overlap && (flow === 'row' || flow === 'column') && typeof gap === 'number';
    const columns = repeats
      ? { kind: 'repeat', min: repeat, ...(most !== undefined && { most }) }
      : { kind: 'count', count };
    return { ...rules, flow, gap: negative ? 0 - gap / 2 : gap, ...(flow === 'grid' && { columns }) };
  });

const childRules = fc
  .record({
    width: fc.oneof(fixedSize, fit, fit, fill, fill, share),
    height: fc.oneof(fit, fit, fit, fixedSize, fill),
    minWidth: some(fc.oneof(px(0, 120), fc.constant('content')), 5),
    maxWidth: some(px(120, 400), 5),
    minHeight: some(px(0, 80), 6),
    maxHeight: some(px(80, 300), 8),
    alignSelf: some(align, 4),
    gapBefore: some(px(0, 40), 6),
  })
  .map((r) => r as Record<string, unknown>);

const pin = fc
  .record({
    across: fc.constantFrom('left', 'right', 'centreX', 'both'),
    upright: fc.constantFrom('top', 'bottom', 'centreY', 'both'),
    x: px(-10, 40),
    y: px(-10, 40),
  })
  .map(({ across, upright, x, y }) => ({
    ...(across === 'both' ? { left: x, right: x } : { [across]: x }),
    ...(upright === 'both' ? { top: y, bottom: y } : { [upright]: y }),
  }));

const pinnedRules = fc.record({
  pin,
  width: fc.oneof(fixedSize, fit, fill),
  height: fc.oneof(fit, fixedSize, fill),
});

let serial = 0;
const make = (
  kind: PartKind,
  rules: Record<string, unknown>,
  children: Part[] = [],
  content?: Content,
): Part => ({
  id: `r${++serial}`,
  name: `${kind} ${serial}`,
  kind,
  rules: tidy(rules),
  children,
  source: [],
  ...(content && { content }),
});

const leaf = (rules: fc.Arbitrary<Record<string, unknown>>): fc.Arbitrary<Part> =>
  fc.oneof(
    {
      weight: 3,
      arbitrary: fc
        .tuple(rules, fc.constantFrom(...WORDS))
        .map(([r, w]) => make('text', r, [], words(w, 22))),
    },
    { weight: 2, arbitrary: fc.tuple(rules, fixedSize).map(([r, h]) => make('shape', { ...r, height: h })) },
    {
      weight: 1,
      arbitrary: fc
        .tuple(rules, px(1, 4))
        .map(([r, n]) => make('picture', { ...r, height: { kind: 'ratio', width: n, height: 3 } })),
    },
  );

function container(depth: number, outer: fc.Arbitrary<Record<string, unknown>>): fc.Arbitrary<Part> {
  const child = depth <= 1 ? leaf(childRules) : fc.oneof(leaf(childRules), container(depth - 1, childRules));
  const pinned = leaf(pinnedRules.map((r) => r as Record<string, unknown>)).map((p) =>
    // A pinned picture's ratio would fight its pins; sizes of pins are tested on shapes and words.
    p.kind === 'picture' ? make('shape', { ...p.rules, height: { kind: 'fixed', px: 20 } }) : p,
  );
  return fc
    .tuple(
      outer,
      containerRules,
      fc.array(child, { minLength: 1, maxLength: 4 }),
      fc.array(pinned, { maxLength: 1 }),
    )
    .map(([o, own, children, pins]) => make('container', { ...o, ...own }, [...children, ...pins]));
}

/**
 * Trees nested up to `depth` containers, over all flows, sizes, limits and pins. Sizes may wait for themselves, which
 * the engine has to bear.
 */
export const anyRoot = (depth: number): fc.Arbitrary<Part> =>
  container(depth, fc.constant({ width: { kind: 'fill', weight: 1 } })).filter((root) =>
    check(root).every((p) => p.circular),
  );

/** The same, but such as a document may hold. */
export const soundRoot = (depth: number): fc.Arbitrary<Part> =>
  anyRoot(depth).filter((root) => check(root).length === 0);
