import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import {
  breakLines,
  breakPoints,
  faceFor,
  matchWeight,
  maxContentWidth,
  minContentWidth,
  normalLineHeight,
  resolveFamily,
  type ShapedMeasurer,
} from '@tinfold/core/text';
import { style, words } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const sentence = fc
  .array(
    fc.constantFrom('Marrow', 'Isle', 'pier-side', '14:20', 'boats', 'a', 'from', 'H-01', 'Ellin', 'Skerry,'),
    { minLength: 1, maxLength: 24 },
  )
  .map((list) => list.join(' '));

describe('paragraphs', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  const joined = (text: string, width: number) =>
    breakLines(words(text), width, m).map((l) => l.runs.map((r) => r.text).join(''));

  test('no line is wider than the box unless it is one unbreakable piece, and no letter is lost', () => {
    fc.assert(
      fc.property(sentence, fc.integer({ min: 20, max: 600 }), (text, width) => {
        const content = words(text);
        const lines = breakLines(content, width, m);
        for (const line of lines)
          expect(line.width).toBeLessThanOrEqual(Math.max(width, minContentWidth(content, m)) + 0.02);
        expect(joined(text, width).join('').replace(/ /g, '')).toBe(text.replace(/ /g, ''));
      }),
    );
  });

  test('a wider box never needs more lines', () => {
    fc.assert(
      fc.property(
        sentence,
        fc.integer({ min: 20, max: 500 }),
        fc.integer({ min: 1, max: 200 }),
        (text, width, more) => {
          expect(joined(text, width + more).length).toBeLessThanOrEqual(joined(text, width).length);
        },
      ),
    );
  });

  test('at its largest width it is one line, at its smallest its longest piece', () => {
    const content = words('Leaves 14:20 from pier 2');
    expect(breakLines(content, maxContentWidth(content, m), m)).toHaveLength(1);
    expect(joined('Leaves 14:20 from pier 2', minContentWidth(content, m))).toEqual([
      'Leaves',
      '14:20',
      'from',
      'pier 2',
    ]);
  });

  test('a break that the writer wants stays', () => {
    expect(joined('Pier 2\nNorth ramp', 1000)).toEqual(['Pier 2', 'North ramp']);
  });

  test('styles change within a line without changing where it breaks', () => {
    const plain = words('Deck space for eighteen cars');
    const mixed = {
      ...plain,
      runs: [
        { text: 'Deck space ', style: style() },
        { text: 'for eighteen cars', style: style() },
      ],
    };
    const lines = breakLines(mixed, 120, m).map((l) => l.runs.map((r) => r.text).join(''));
    expect(lines).toEqual(joined('Deck space for eighteen cars', 120));
  });

  test.each([
    ['H-01', [2, 4]],
    ['at -1 now', [3, 6, 9]],
    ['low-lying', [4, 9]],
    ['a/b/c', [5]],
    ['two words', [4, 9]],
  ])('breaks of “%s”', (text, ends) => {
    expect(breakPoints(text).map((b) => b.position)).toEqual(ends);
  });
});

describe('shipped fonts', () => {
  test('line height is the rounded ascent and descent', async () => {
    const m = await testMeasurer();
    // Inter: ascent 0.96875, descent 0.2412 of the size.
    expect(normalLineHeight(m.metrics(style(16)))).toBe(20);
    expect(normalLineHeight(m.metrics(style(34)))).toBe(41);
  });

  test('letter spacing is added to every letter', async () => {
    const m = await testMeasurer();
    expect(m.width('Pier', { ...style(), letterSpacing: 2 }) - m.width('Pier', style())).toBeCloseTo(8, 6);
  });

  test('a file that was not loaded is named', async () => {
    const m = await testMeasurer();
    expect(() => m.width('Pier', { ...style(), weight: 900 })).toThrow(/inter-latin-900-normal/);
  });

  test.each([
    ['Inter, sans-serif', 'Inter', true],
    ["'Open Sans'", 'Open Sans', true],
    ['Aster Sans, Lato', 'Lato', false],
    ['Georgia, serif', 'Source Serif 4', false],
    ['Courier, monospace', 'Spline Sans Mono', false],
    ['Aster Sans', 'Inter', false],
  ])('%s is %s', (list, family, exact) => {
    expect(resolveFamily(list)).toMatchObject({ family: { family }, exact });
  });

  test('weights are matched as CSS Fonts 4 §5.2 says', () => {
    expect(matchWeight([100, 300, 400, 700, 900], 600)).toBe(700);
    expect(matchWeight([100, 300, 400, 700, 900], 500)).toBe(400);
    expect(matchWeight([100, 300, 400, 700, 900], 200)).toBe(100);
    expect(faceFor({ family: 'Lato', weight: 600, italic: false }).weight).toBe(700);
  });
});
