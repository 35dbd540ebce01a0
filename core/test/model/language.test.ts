import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  formatCell,
  formatColumns,
  formatEdges,
  formatGap,
  formatLimits,
  formatPin,
  formatRuleLine,
  formatSize,
  parseCell,
  parseColumns,
  parseEdges,
  parseGap,
  parseLimits,
  parsePin,
  parseRuleLine,
  parseSize,
  type Size,
} from '@tinfold/core/model';

const px = fc.integer({ min: 0, max: 4000 });
const size: fc.Arbitrary<Size> = fc.oneof(
  px.map((n): Size => ({ kind: 'fixed', px: n })),
  fc.constant<Size>({ kind: 'fit' }),
  fc.integer({ min: 1, max: 9 }).map((weight): Size => ({ kind: 'fill', weight })),
  fc.integer({ min: 1, max: 100 }).map((percent): Size => ({ kind: 'share', percent })),
  fc
    .tuple(fc.integer({ min: 1, max: 99 }), fc.integer({ min: 1, max: 99 }))
    .map(([width, height]): Size => ({ kind: 'ratio', width, height })),
);
const edges = fc.record({ top: px, right: px, bottom: px, left: px });

describe('the language of the parts list', () => {
  test('pins and places in a grid are read as they are written', () => {
    const some = <T>(arb: fc.Arbitrary<T>) => fc.option(arb, { nil: undefined });
    const said = (all: Record<string, number | undefined>): Record<string, number> =>
      Object.fromEntries(Object.entries(all).flatMap(([name, v]) => (v === undefined ? [] : [[name, v]])));
    const away = fc.integer({ min: -90, max: 900 });
    const pin = fc
      .record({
        left: some(away),
        topShare: some(away),
        centreX: some(away),
        bottom: some(away),
        z: some(away),
      })
      .map(said)
      .filter((p) => Object.keys(p).length > 0);
    fc.assert(
      fc.property(pin, (p) => {
        expect(parsePin(formatPin(p))).toEqual({ ok: true, value: p });
      }),
    );
    const n = fc.integer({ min: 1, max: 40 });
    const cell = fc
      .tuple(n, some(n), some(n), some(n))
      .map(([column, row, columnSpan, rows]) =>
        said({ column, row, columnSpan, rowSpan: columnSpan === undefined ? undefined : rows }),
      );
    fc.assert(
      fc.property(cell, (c) => {
        expect(parseCell(formatCell(c))).toEqual({ ok: true, value: c });
      }),
    );
    expect(parseCell('')).toEqual({ ok: true, value: null });
    expect(parseCell('span 2 × 1')).toEqual({ ok: true, value: { columnSpan: 2, rowSpan: 1 } });
    expect(parseCell('0, 1').ok).toBe(false);
    for (const wrong of ['', 'top', 'top x', 'middle 3', 'z 4%']) expect(parsePin(wrong).ok).toBe(false);
  });

  test('sizes, gaps, paddings and limits are read as they are written', () => {
    fc.assert(
      fc.property(size, (s) => {
        expect(parseSize(formatSize(s))).toEqual({ ok: true, value: s });
      }),
    );
    fc.assert(
      fc.property(edges, (e) => {
        expect(parseEdges(formatEdges(e))).toEqual({ ok: true, value: e });
      }),
    );
    fc.assert(
      fc.property(fc.oneof(fc.integer({ min: -99, max: 99 }), fc.constant('between' as const)), (g) => {
        expect(parseGap(formatGap(g))).toEqual({ ok: true, value: g });
      }),
    );
    fc.assert(
      fc.property(px, px, (a, b) => {
        const [min, max] = [Math.min(a, b), Math.max(a, b)];
        expect(parseLimits(formatLimits(min, max))).toEqual({ ok: true, value: { min, max } });
        expect(parseLimits(formatLimits(min, undefined))).toEqual({ ok: true, value: { min, max: null } });
        expect(parseLimits(formatLimits(undefined, max))).toEqual({ ok: true, value: { min: null, max } });
      }),
    );
  });

  test('a whole line is read as it is written', () => {
    fc.assert(
      fc.property(size, size, edges, px, (width, height, padding, gap) => {
        const rules = {
          flow: 'row' as const,
          gap,
          padding: { ...padding, top: padding.top + 1 },
          align: 'centre' as const,
          width,
          height,
        };
        expect(parseRuleLine(formatRuleLine(rules))).toEqual({ ok: true, value: rules });
      }),
    );
  });

  test.each([
    [
      'col gap 12 pad 16 fill',
      {
        flow: 'column',
        gap: 12,
        padding: { top: 16, right: 16, bottom: 16, left: 16 },
        width: { kind: 'fill', weight: 1 },
      },
    ],
    [
      'wrap gap 20 fill×fit',
      { flow: 'wrap', gap: 20, width: { kind: 'fill', weight: 1 }, height: { kind: 'fit' } },
    ],
    ['fill 2 min 240 max 360', { width: { kind: 'fill', weight: 2 }, minWidth: 240, maxWidth: 360 }],
    [
      'row gap between align base pad 8 12',
      { flow: 'row', gap: 'between', align: 'baseline', padding: { top: 8, right: 12, bottom: 8, left: 12 } },
    ],
  ])('%s', (line, rules) => {
    expect(parseRuleLine(line)).toEqual({ ok: true, value: rules });
  });

  test('garbage is answered by a sentence, never by an exception', () => {
    fc.assert(
      fc.property(fc.string(), (line) => {
        for (const parse of [parseRuleLine, parseSize, parseEdges, parseGap, parseLimits]) {
          const result = parse(line);
          if (!result.ok) expect(result.reason).toMatch(/: type .+\.$/);
        }
      }),
    );
  });
});

describe('tracks and columns', () => {
  test.each([
    ['3', { kind: 'count', count: 3 }],
    ['min 240', { kind: 'repeat', min: 240 }],
    ['4 of min 180', { kind: 'repeat', min: 180, most: 4 }],
    [
      '240 fr 2fr',
      {
        kind: 'tracks',
        tracks: [
          { kind: 'fixed', px: 240 },
          { kind: 'fr', weight: 1 },
          { kind: 'fr', weight: 2 },
        ],
      },
    ],
    [
      'fit 120–content content+fr',
      {
        kind: 'tracks',
        tracks: [
          { kind: 'fit' },
          { kind: 'range', min: 120, max: 'content' },
          { kind: 'fr', weight: 1, min: 'content' },
        ],
      },
    ],
  ])('“%s” is read and written alike', (text, value) => {
    const parsed = parseColumns(text);
    expect(parsed).toEqual({ ok: true, value });
    expect(parsed.ok && formatColumns(parsed.value)).toBe(text);
  });

  test.each(['', 'min', '0fr', 'fit 3x', '-4', '5 of 3'])(
    '“%s” is refused with what may be typed',
    (text) => {
      const parsed = parseColumns(text);
      expect(!parsed.ok && parsed.reason).toMatch(/number of columns, min 240/);
    },
  );

  test('a line of rules says columns, lines and directions', () => {
    const rules = { columns: { kind: 'repeat', min: 240 } } as const;
    expect(parseRuleLine('cols min 240 gap 16 rtl')).toEqual({
      ok: true,
      value: { flow: 'grid', ...rules, gap: 16, direction: 'rtl' },
    });
    expect(parseRuleLine('lines 2 fill')).toMatchObject({ ok: true, value: { maxLines: 2 } });
    expect(parseRuleLine('lines none').ok).toBe(false);
  });
});
