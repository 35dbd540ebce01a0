import { describe, expect, test } from 'vitest';
import type { Drawing } from '@tinfold/core/drawing';
import { openWithFonts, testMeasurer } from '../support/fonts.js';

const read = (body: string, family = 'Ferry Sans'): Promise<Drawing> =>
  openWithFonts(
    `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="300" font-family="${family}" font-size="20">${body}</svg>`,
  );
const STYLE = { family: 'Inter', size: 20, weight: 400, italic: false, letterSpacing: 0, colour: '#000000' };
const adjusts = (d: Drawing) =>
  d.items.map((i) => (i.kind === 'text' ? i.content.runs[0]?.style.sizeAdjust : undefined));

describe('a font that is missing is scaled so that its words keep their drawn width', () => {
  test('by textLength', async () => {
    const width = (await testMeasurer()).width('Nether Quay', STYLE);
    const d = await read(
      `<text x="20" y="40" textLength="${width * 1.1}">Nether Quay</text><text x="20" y="90">Low Tarn</text>`,
    );
    expect(adjusts(d)[0]).toBeCloseTo(1.1, 3);
    // What was learnt from one text holds for all in the font.
    expect(adjusts(d)[1]).toBeCloseTo(1.1, 3);
    expect(d.items[0]?.box.width).toBeCloseTo(width * 1.1, 1);
  });

  test('by the places of its words', async () => {
    const m = await testMeasurer();
    const step = (word: string) => m.width(`${word} `, STYLE) * 0.9;
    const [a, b] = [step('Three'), step('crossings')];
    const d = await read(
      `<text y="40"><tspan x="20">Three</tspan><tspan x="${20 + a}">crossings</tspan><tspan x="${20 + a + b}">daily</tspan></text>`,
    );
    expect(d.items).toHaveLength(1);
    expect(adjusts(d)[0]).toBeCloseTo(0.9, 2);
  });

  test('not where the file does not tell, nor where the font is there', async () => {
    expect(adjusts(await read('<text x="20" y="40">Nether Quay</text>'))).toEqual([undefined]);
    expect(adjusts(await read('<text x="20" y="40" textLength="200">Nether Quay</text>', 'Inter'))).toEqual([
      undefined,
    ]);
  });
});
