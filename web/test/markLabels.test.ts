import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { placeMarks, type Mark, type PlacedMark } from '../src/screen/markLabels';

const LENGTH = 1200;
const xOf = (width: number): number => ((width - 240) / (1920 - 240)) * LENGTH;
const mark = (width: number): Mark => ({ width, label: `below ${width}`, short: `‹ ${width}` });
const NUMBER = { from: -100, to: -50 };

/** What the words of a mark take on the rail, as wide as they are counted, px. */
const taken = ({ width, words, side }: PlacedMark): [number, number] => {
  const wide = words.length * 6.1 + 10;
  return side === 'after' ? [xOf(width), xOf(width) + wide] : [xOf(width) - wide, xOf(width)];
};

describe('labels on the rail', () => {
  test('a mark alone has all its words beside it', () => {
    expect(placeMarks([mark(800)], xOf, LENGTH, NUMBER)).toMatchObject([
      { words: 'below 800', side: 'after', row: 0 },
    ]);
  });

  test('of two that are near, one changes its side; of three, one goes to the second row', () => {
    expect(placeMarks([mark(800), mark(820)], xOf, LENGTH, NUMBER)).toMatchObject([
      { side: 'before', row: 0, words: 'below 800' },
      { side: 'after', row: 0, words: 'below 820' },
    ]);
    const three = placeMarks([mark(800), mark(830), mark(860)], xOf, LENGTH, NUMBER);
    expect(new Set(three.map((m) => `${m.side} ${m.row}`)).size).toBe(3);
    expect(three.every((m) => m.words !== '')).toBe(true);
  });

  test('the caliper’s number is kept clear', () => {
    const [placed] = placeMarks([mark(800)], xOf, LENGTH, { from: xOf(800) - 4, to: xOf(800) + 58 });
    expect(placed?.side === 'before' || placed?.words === '').toBe(true);
  });

  test('words never lie over each other, over the number or beyond the rail', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 240, max: 1920 }), { maxLength: 14 }),
        fc.integer({ min: 240, max: 1920 }),
        (widths, caliper) => {
          const number = { from: xOf(caliper) - 4, to: xOf(caliper) + 58 };
          const placed = placeMarks(widths.map(mark), xOf, LENGTH, number).filter((m) => m.words !== '');
          placed.forEach((a, i) => {
            const [from, to] = taken(a);
            expect(from).toBeGreaterThanOrEqual(0);
            expect(to).toBeLessThanOrEqual(LENGTH);
            expect(to <= number.from || from >= number.to).toBe(true);
            for (const b of placed.slice(i + 1)) {
              const [start, end] = taken(b);
              expect(a.row !== b.row || to <= start || from >= end).toBe(true);
            }
          });
        },
      ),
    );
  });
});
