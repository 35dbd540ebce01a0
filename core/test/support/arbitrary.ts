import fc from 'fast-check';
import {
  check,
  checkAll,
  type Cell,
  type Content,
  type Paint,
  type Part,
  type PartKind,
  type RuleChange,
  type Size,
  type Structure,
  type Token,
  type Track,
} from '@tinfold/core/model';
import { structure, words } from './build.js';

const px = (min: number, max: number) => fc.integer({ min, max });
/** A value in one case of `oneIn`, else none. */
const some = <T>(arb: fc.Arbitrary<T>, oneIn = 2): fc.Arbitrary<T | undefined> =>
  fc.oneof({ weight: 1, arbitrary: arb }, { weight: oneIn - 1, arbitrary: fc.constant(undefined) });
const rarely = <T>(value: T) => some(fc.constant(value), 8);

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
const tidy = <T extends object>(rules: T): T =>
  Object.fromEntries(Object.entries(rules).filter(([, v]) => v !== undefined)) as T;

const align = fc.constantFrom('start', 'centre', 'end', 'stretch', 'baseline');
const justify = fc.constantFrom('start', 'centre', 'end');
const spread = fc.constantFrom('start', 'centre', 'end', 'between', 'around', 'evenly');

const track: fc.Arbitrary<Track> = fc.oneof(
  px(20, 120).map((n): Track => ({ kind: 'fixed', px: n })),
  px(1, 3).map((weight): Track => ({ kind: 'fr', weight })),
  fc.constant<Track>({ kind: 'fr', weight: 1, min: 'content' }),
  px(20, 90).map((min): Track => ({ kind: 'fr', weight: 1, min })),
  fc.constant<Track>({ kind: 'fit' }),
  fc.tuple(px(20, 80), px(80, 200)).map(([min, max]): Track => ({ kind: 'range', min, max })),
  px(20, 80).map((min): Track => ({ kind: 'range', min, max: 'content' })),
);

const columns = fc.oneof(
  px(1, 4).map((count) => ({ kind: 'count', count })),
  fc.record({ min: px(60, 240), most: some(px(1, 4)) }).map((r) => tidy({ kind: 'repeat', ...r })),
  fc.array(track, { minLength: 1, maxLength: 4 }).map((tracks) => ({ kind: 'tracks', tracks })),
);

type Loose = Record<string, unknown>;

const gridRules: fc.Arbitrary<Loose> = fc.record({
  flow: fc.constant('grid'),
  columns,
  rows: some(fc.array(track, { minLength: 1, maxLength: 3 }), 3),
  autoRows: some(track, 5),
  autoFlow: some(fc.constantFrom('row', 'column'), 4),
  gap: some(px(0, 30)),
  crossGap: some(px(0, 30)),
  alignLines: some(spread, 3),
  justifyTracks: some(spread, 3),
  justifyItems: some(justify, 3),
});

const flexRules: fc.Arbitrary<Loose> = fc
  .record({
    flow: fc.constantFrom('column', 'column', 'row', 'row', 'wrap'),
    gap: some(fc.oneof(px(0, 30), fc.constantFrom('between', 'around', 'evenly', 'centres'))),
    overlap: fc.boolean(),
    crossGap: some(px(0, 30)),
    justify: some(justify),
    reverse: rarely(true),
    alignLines: some(fc.oneof(spread, fc.constant('stretch')), 3),
  })
  .map(({ overlap, ...rules }): Loose => {
    const { flow, gap } = rules;
    const negative = overlap && flow !== 'wrap' && typeof gap === 'number';
    return {
      ...rules,
      gap: negative ? 0 - gap / 2 : flow === 'wrap' && gap === 'centres' ? 12 : gap,
      ...(flow !== 'wrap' && { alignLines: undefined }),
    };
  });

const containerRules: fc.Arbitrary<Loose> = fc
  .tuple(
    fc.oneof({ weight: 5, arbitrary: flexRules }, { weight: 2, arbitrary: gridRules }),
    fc.record({
      padding: some(edges),
      align: some(align),
      direction: some(fc.constantFrom('rtl', 'ltr'), 12),
      scroll: some(fc.constant(true), 10),
      clip: some(fc.constant(true), 10),
      strokeTakesRoom: rarely(true),
      safeArea: some(fc.subarray(['top', 'right', 'bottom', 'left'] as const, { minLength: 1 }), 8),
    }),
  )
  .map(([a, b]) => ({ ...a, ...b }));

const childRules: fc.Arbitrary<Loose> = fc.record({
  width: fc.oneof(fixedSize, fit, fit, fill, fill, share),
  height: fc.oneof(
    { weight: 6, arbitrary: fit },
    { weight: 2, arbitrary: fixedSize },
    { weight: 2, arbitrary: fill },
    { weight: 1, arbitrary: share },
  ),
  minWidth: some(fc.oneof(px(0, 120), fc.constant('content')), 5),
  maxWidth: some(fc.oneof(px(120, 400), fc.constant('content')), 5),
  minHeight: some(px(0, 80), 6),
  maxHeight: some(px(80, 300), 8),
  alignSelf: some(align, 4),
  gapBefore: some(px(0, 40), 6),
  order: some(px(-2, 2), 10),
  givesWay: some(fc.constantFrom('first', 'never'), 6),
  hidden: some(fc.constant(true), 25),
});

/** What only a grid's or a wrap's child says; the parent's flow decides which of it stays. */
const placing: fc.Arbitrary<Loose> = fc.record({
  newLine: rarely(true),
  justifySelf: some(justify, 4),
  cell: some(
    fc
      .record({
        column: some(px(1, 3)),
        row: some(px(1, 3)),
        columnSpan: some(px(1, 3)),
        rowSpan: some(px(1, 2)),
      })
      .map(tidy),
    3,
  ),
});

const pin = fc
  .record({
    across: fc.constantFrom('left', 'right', 'centreX', 'both', 'leftShare'),
    upright: fc.constantFrom('top', 'bottom', 'centreY', 'both', 'topShare'),
    x: px(-10, 40),
    y: px(-10, 40),
  })
  .map(({ across, upright, x, y }) => ({
    ...(across === 'both' ? { left: x, right: x } : { [across]: x }),
    ...(upright === 'both' ? { top: y, bottom: y } : { [upright]: y }),
  }));

const pinnedRules: fc.Arbitrary<Loose> = fc.record({
  pin,
  width: fc.oneof(fixedSize, fit, fill),
  height: fc.oneof(fit, fixedSize, fill),
});

let serial = 0;
const make = (
  kind: PartKind,
  rules: Loose,
  children: Part[] = [],
  content?: Content,
  paint?: Paint,
): Part => ({
  id: `r${++serial}`,
  name: `${kind} ${serial}`,
  kind,
  rules: tidy(rules),
  children,
  source: [],
  ...(content && { content }),
  ...(paint && { paint }),
});

const leaf = (rules: fc.Arbitrary<Loose>): fc.Arbitrary<Part> =>
  fc.oneof(
    {
      weight: 3,
      arbitrary: fc
        .tuple(rules, fc.constantFrom(...WORDS), some(px(1, 3), 5))
        .map(([r, w, maxLines]) => make('text', { ...r, maxLines }, [], words(w, 22))),
    },
    { weight: 2, arbitrary: fc.tuple(rules, fixedSize).map(([r, h]) => make('shape', { ...r, height: h })) },
    {
      weight: 1,
      arbitrary: fc
        .tuple(rules, px(1, 4))
        .map(([r, n]) => make('picture', { ...r, height: { kind: 'ratio', width: n, height: 3 } })),
    },
  );

/** The child with what its parent's flow lets it say of its place. */
function inFlowOf(own: Loose, child: Part, place: Loose, first: boolean): Part {
  const { flow } = own;
  const { newLine, justifySelf, cell } = place;
  const columns = own['columns'] as { kind: string; count?: number; tracks?: unknown[] } | undefined;
  const count = columns?.count ?? columns?.tracks?.length ?? 1;
  const { rowSpan, ...rest } = (cell ?? {}) as Cell;
  // Where several spans of rows overlap, browsers size the rows otherwise: see docs/layout-law.md.
  const at: Cell = { ...rest, ...(first && rowSpan !== undefined && { rowSpan }) };
  const inside = own['autoFlow'] === 'column' || (at.column ?? 1) + (at.columnSpan ?? 1) - 1 <= count;
  const said: Loose =
    flow === 'grid'
      ? { justifySelf, ...(inside && cell !== undefined && { cell: at }) }
      : flow === 'wrap'
        ? { newLine }
        : {};
  return { ...child, rules: { ...child.rules, ...tidy(said) } };
}

function container(depth: number, outer: fc.Arbitrary<Loose>): fc.Arbitrary<Part> {
  const child =
    depth <= 1
      ? leaf(childRules)
      : fc.oneof(
          { weight: 5, arbitrary: leaf(childRules) },
          { weight: 5, arbitrary: container(depth - 1, childRules) },
          { weight: 1, arbitrary: free },
        );
  const pinned = leaf(pinnedRules).map((p) =>
    // A pinned picture's ratio would fight its pins; sizes of pins are tested on shapes and words.
    p.kind === 'picture' ? make('shape', { ...p.rules, height: { kind: 'fixed', px: 20 } }) : p,
  );
  return fc
    .tuple(
      outer,
      containerRules,
      fc.array(fc.tuple(child, placing), { minLength: 1, maxLength: 4 }),
      fc.array(pinned, { maxLength: 1 }),
    )
    .map(([o, own, children, pins]) =>
      make(
        'container',
        { ...o, ...own },
        [...children.map(([c, place], i) => inFlowOf(own, c, place, i === 0)), ...pins],
        undefined,
        own['strokeTakesRoom'] === true ? { stroke: { colour: '#333333', width: 3 } } : undefined,
      ),
    );
}

/** A container whose children all hang where their pins say. */
const free: fc.Arbitrary<Part> = fc
  .tuple(childRules, fc.array(leaf(pinnedRules), { minLength: 1, maxLength: 3 }))
  .map(([rules, pins]) =>
    make(
      'container',
      { ...rules, flow: 'free' },
      pins.map((p) =>
        p.kind === 'picture' ? make('shape', { ...p.rules, height: { kind: 'fixed', px: 20 } }) : p,
      ),
    ),
  );

/**
 * Trees nested up to `depth` containers, over all flows, sizes, limits and pins. Sizes may wait for themselves, which
 * the engine has to bear.
 */
export const anyRoot = (depth: number): fc.Arbitrary<Part> =>
  container(
    depth,
    fc.record({
      width: fc.constant({ kind: 'fill', weight: 1 }),
      height: some(fc.constant({ kind: 'fill', weight: 1 }), 4),
    }),
  ).filter((root) => check(root).every((p) => p.circular));

/** The same, but such as a document may hold. */
export const soundRoot = (depth: number): fc.Arbitrary<Part> =>
  anyRoot(depth).filter((root) => check(root).length === 0);

const BREAKPOINTS = [900, 600];

const override: fc.Arbitrary<RuleChange> = fc
  .record({
    flow: some(fc.constantFrom('column', 'row', 'wrap')),
    gap: some(px(0, 30)),
    padding: some(edges),
    width: some(fc.oneof(fixedSize, fit, fill)),
    maxWidth: some(fc.oneof(px(120, 400), fc.constant(null))),
    hidden: some(fc.boolean(), 6),
    align: some(align),
  })
  .map(tidy) as fc.Arbitrary<RuleChange>;

const TOKENS: readonly Token[] = [
  {
    kind: 'length',
    name: 'space',
    value: 24,
    below: [
      { width: 900, value: 16 },
      { width: 600, value: 7 },
    ],
  },
  { kind: 'length', name: 'type', value: 20, below: [{ width: 600, value: 13 }] },
];

/** What of an override may stand on a part of this kind. */
function fitting(part: Part, change: RuleChange): RuleChange {
  const flex =
    part.kind === 'container' && part.rules.flow !== 'grid' && !part.children.some((c) => c.rules.newLine);
  if (flex) return change;
  const { flow: _flow, gap: _gap, align: _align, ...rest } = change;
  return rest;
}

/** Structures whose rules change below some widths and in frames wider than high, with tokens that step. */
export const anyStructure = (depth: number): fc.Arbitrary<Structure> =>
  fc
    .tuple(anyRoot(depth), fc.infiniteStream(fc.tuple(px(0, 5), override, override, px(0, 4))))
    .map(([root, stream]) => {
      const dress = (part: Part, top = false): Part => {
        const [chance, wide, narrow, token] = stream.next().value as [number, RuleChange, RuleChange, number];
        const bound =
          token === 0 && part.kind === 'container' && typeof part.rules.gap === 'number' && part.rules.gap > 0
            ? { gap: 'space', 'padding.left': 'space' }
            : token === 0 && part.kind === 'text'
              ? { 'text.size': 'type' }
              : undefined;
        return {
          ...part,
          ...(chance < 2 &&
            !top &&
            !part.rules.pin && {
              below: BREAKPOINTS.map((width, i) => ({
                width,
                rules: tidy(fitting(part, i === 0 ? wide : narrow)),
              })),
            }),
          ...(chance === 3 && !top && !part.rules.pin && { wide: tidy(fitting(part, wide)) }),
          ...(bound && { bound }),
          children: part.children.map((c) => dress(c)),
        };
      };
      return { ...structure(dress(root, true)), tokens: TOKENS };
    })
    .filter((s) => checkAll(s).every((p) => p.circular));
