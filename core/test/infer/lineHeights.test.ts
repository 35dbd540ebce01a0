import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { readSeveral, readStructure } from '@tinfold/core/infer';
import { deviations } from '@tinfold/core/proof';
import { Engine } from '@tinfold/core/layout';
import { walk, type Structure } from '@tinfold/core/model';
import { normalLineHeight, type ShapedMeasurer } from '@tinfold/core/text';
import { style } from '../support/build.js';
import { draw, partOf, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

describe('how high a line is that stands alone', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });
  const read = (body: string): Structure => readStructure(draw(400, 300, body, m), m);
  const heightOf = (structure: Structure, id: string): number => {
    const { content } = partOf(structure.root, id);
    return content?.kind === 'text' ? content.lineHeight : NaN;
  };

  test('without anything beside it, it is as high as most screens set its size', () => {
    expect(heightOf(read(words('a', 40, 120, 'Marrow Isle')), 'a')).toBe(24);
  });

  test('it is as high as the lines of a paragraph in its style', () => {
    const paragraph = `<text id="p"><tspan x="40" y="100">Foot passengers board</tspan><tspan x="40" y="122">by the north ramp.</tspan></text>`;
    expect(heightOf(read(paragraph + words('a', 40, 200, 'Low Tarn')), 'a')).toBeCloseTo(22, 5);
  });

  test('what another style of the screen is set at is likelier', () => {
    const paragraph = `<text id="p"><tspan x="40" y="40">Foot passengers board</tspan><tspan x="40" y="68.8">by the north ramp.</tspan></text>`;
    const structure = read(paragraph + words('a', 40, 240, 'Pier 2', 'font-size="14"'));
    expect(heightOf(structure, 'a')).toBeCloseTo(14 * 1.8, 5);
  });

  test('a fraction in the pitch tells it', () => {
    const lines = [0, 1, 2]
      .map((i) => words(`l${i}`, 40, 60 + i * 32.7, `Pier ${i}`, 'font-size="19"'))
      .join('');
    expect(heightOf(read(lines), 'l1')).toBeCloseTo(19 * 1.3, 5);
  });

  test('alone in the middle of its box it keeps as many whole px above as below', () => {
    fc.assert(
      fc.property(fc.integer({ min: 32, max: 48 }), (height) => {
        const paddings = [0, 1].map((drop) => {
          const baseline = 60 + Math.floor(height / 2) + 5 + drop;
          const body = rect('b', 40, 60, 120, height) + words('a', 60, baseline, 'Book', 'font-size="14"');
          return partOf(readSeveral([draw(400, 300, body, m)], m).root, 'b').rules.padding;
        });
        // Of two baselines beside each other one is in the middle.
        expect(paddings.some((p) => p !== undefined && p.top === p.bottom && Number.isInteger(p.top))).toBe(
          true,
        );
      }),
    );
  });

  describe('a list without paragraphs beside it', () => {
    const list = (pitch: number) =>
      ['Sailings', 'Fares', 'Piers', 'Crew']
        .map((t, i) => words(`l${i}`, 60, 60 + i * pitch, t, 'font-size="15"'))
        .join('');

    test.each([
      [32, 24],
      [36, 24],
      [28, 24],
      [30, 24],
    ])('of pitch %i is set in lines of %i, so that its gaps are whole steps', (pitch, height) => {
      const structure = read(list(pitch));
      expect(heightOf(structure, 'l1')).toBeCloseTo(height, 5);
    });
  });

  test('what lies over it leaves it its height', () => {
    const rows = words('a', 40, 60, 'Low Tarn') + words('b', 40, 100, 'Pier 2');
    const over = rect('dialog', 20, 70, 300, 120) + words('title', 40, 104, 'Leave the queue?');
    const structure = read(rows + over);
    expect(['a', 'b', 'title'].map((id) => heightOf(structure, id))).toEqual([24, 24, 24]);
  });

  test('it reaches into no line that it stood clear of, nor out of its box', () => {
    const close = read(words('a', 40, 100, 'Low Tarn') + words('b', 40, 121, 'Pier 2'));
    expect(heightOf(close, 'a')).toBeLessThanOrEqual(21);
    const tag = read(rect('tag', 40, 80, 90, 20) + words('a', 50, 95, 'Low Tarn', 'font-size="14"'));
    expect(heightOf(tag, 'a')).toBeLessThanOrEqual(20);
  });

  test('the letters stay where they were drawn, whatever the size', () => {
    fc.assert(
      fc.property(fc.integer({ min: 9, max: 64 }), fc.integer({ min: 80, max: 200 }), (size, baseline) => {
        const drawing = draw(600, 300, words('a', 40, baseline, 'Ellin Skerry', `font-size="${size}"`), m);
        const structure = readStructure(drawing, m);
        expect(deviations(structure, drawing, new Engine(m)).every((d) => d.by <= 0.5)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  test('a line height that the drawing says is kept', () => {
    const { lineHeight, size } = { lineHeight: normalLineHeight(m.metrics(style(16))), size: 16 };
    const drawing = draw(400, 200, words('a', 40, 100, 'Marrow Isle', `font-size="${size}"`), m);
    const said = drawing.items.map((i) => {
      if (i.kind !== 'text') return i;
      const { loneLine: _lone, ...item } = i;
      return item;
    });
    const texts = [...walk(readStructure({ ...drawing, items: said }, m).root)].flatMap((p) =>
      p.content?.kind === 'text' ? [p.content.lineHeight] : [],
    );
    expect(texts).toEqual([lineHeight]);
  });
});
