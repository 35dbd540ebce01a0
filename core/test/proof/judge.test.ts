import { describe, expect, test } from 'vitest';
import { Engine } from '@tinfold/core/layout';
import { FILL, fixed, type Part } from '@tinfold/core/model';
import { judge, priceOf, prove } from '@tinfold/core/proof';
import { column, row, structure, text } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';
import { box, frame } from '../support/screens.js';

const range = { from: 320, to: 1920 };
const drawn = { width: 1000, height: 600 };

describe('the judge', () => {
  const price = async (part: Part): Promise<number> =>
    judge(part, new Engine(await testMeasurer()), { range, drawn }).price;

  test('asks nothing for what holds', async () => {
    expect(await price(frame({}, text('Low Tarn')))).toBe(0);
  });

  test('asks more the wider the range of a fault, and the graver it is', async () => {
    const sticking = (width: number) => price(frame({}, box(width, 40)));
    const [a, b, c] = [await sticking(400), await sticking(600), await sticking(900)];
    expect(a).toBeGreaterThan(0);
    expect(b).toBeGreaterThan(a);
    expect(c).toBeGreaterThan(b);
    const warned = await price(
      frame(
        {},
        row(
          { width: FILL, gap: 8 },
          box(20, 40),
          { ...box(20, 40), below: [{ width: 520, rules: { gapBefore: 30 } }] },
          box(20, 40),
        ),
      ),
    );
    expect(warned).toBeGreaterThan(0);
    expect(warned).toBeLessThan(await sticking(520));
  });

  test('a phone’s widths count as much as a desk’s', () => {
    const fault = (from: number, to: number) =>
      priceOf(
        [
          {
            kind: 'overlap',
            severity: 'error',
            parts: ['a'],
            count: 1,
            from,
            to,
            runs: [{ from, to }],
            trial: null,
            by: 9,
            answerable: 'a',
            place: { width: from, box: null },
          },
        ],
        range,
      );
    expect(fault(320, 639)).toBeCloseTo(fault(640, 1279), 6);
    expect(fault(320, 1920)).toBeCloseTo(106, 1);
  });

  test('tells of a part alone what the proof tells of a frame like it', async () => {
    const part = column(
      { width: FILL },
      row(
        { width: FILL },
        text('Leaves 14:20 from pier 2', { width: FILL }),
        box(280, 40, { width: fixed(280) }),
      ),
    );
    const engine = new Engine(await testMeasurer());
    const alone = judge(part, engine, { range, drawn });
    const whole = prove(structure(part, drawn.width, drawn.height), engine);
    expect(alone.faults).toEqual(whole.faults);
  });
});
