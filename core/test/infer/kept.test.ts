import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { facesOf, measureDrawing, NO_DECISIONS, openDrawing, readSvg } from '@tinfold/core/drawing';
import { alignDrawings, readSeveral, readStructure } from '@tinfold/core/infer';
import { exportHtml } from '@tinfold/core/handoff';
import { checkAll, structureFromJson, walk, type Structure } from '@tinfold/core/model';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { everyCase } from '../support/benchmark.js';
import { openWithFonts, testMeasurer } from '../support/fonts.js';

const DEMO = new URL('../../../demo/', import.meta.url);

/** What the program has read it takes back, lets stand and writes out. */
function expectKept(structure: Structure): void {
  expect(checkAll(structure)).toEqual([]);
  const again = structureFromJson(JSON.parse(JSON.stringify(structure)));
  expect(again).toEqual(JSON.parse(JSON.stringify(structure)));
  expect(exportHtml(again).length).toBeGreaterThan(0);
}

async function read(sources: readonly string[]): Promise<Structure> {
  const raws = sources.map((s) => readSvg(s, 'Screen'));
  const measurer = await loadMeasurer(raws.flatMap((r) => facesOf(r)));
  const drawings = alignDrawings(raws.map((r) => measureDrawing(r, measurer)));
  return readSeveral(
    drawings.map((d) => d.drawing),
    measurer,
  );
}

const cases = [
  {
    name: 'departures',
    files: ['departures-1280.svg', 'departures-390.svg'].map((f) => new URL(f, DEMO)),
  },
  ...everyCase(3),
];

const svg = (width: number, height: number, body: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${body}</svg>`;

/** A length as drawing programs write it, px. */
const hundredths = (min: number, max: number) =>
  fc.integer({ min: Math.round(min * 100), max: Math.round(max * 100) }).map((n) => n / 100);

/** A box or a word anywhere on the frame, as no designer would draw it. */
const anything = (width: number, height: number) =>
  fc
    .record({
      x: hundredths(-20, width),
      y: hundredths(-20, height),
      w: hundredths(0.2, width),
      h: hundredths(0.2, 300),
      size: hundredths(6, 61.04),
      words: fc.option(fc.constantFrom('Low Tarn', 'Leaves 14:20 from pier 2', 'Full'), { freq: 1 }),
    })
    .map(({ x, y, w, h, size, words }) =>
      words === null
        ? `<rect x="${x}" y="${y}" width="${w}" height="${h}" fill="#c0ffee"/>`
        : `<text x="${x}" y="${y}" font-family="Inter" font-size="${size}">${words}</text>`,
    );

describe('what is read can be kept', () => {
  test.each(cases)('$name', async ({ files }) => {
    const sources = files.map((f) => readFileSync(f, 'utf8'));
    expectKept(await read(sources.slice(0, 1)));
    expectKept(await read(sources));
  });

  test('drawings of anything anywhere, one or two of a screen', async () => {
    const screen = (width: number) =>
      fc.array(anything(width, 700), { minLength: 1, maxLength: 24 }).map((b) => svg(width, 700, b.join('')));
    const measurer = await testMeasurer();
    fc.assert(
      fc.property(screen(1200), fc.option(screen(390)), (wide, narrow) => {
        const sources = narrow === null ? [wide] : [wide, narrow];
        const drawings = alignDrawings(sources.map((s) => measureDrawing(readSvg(s, 'Screen'), measurer)));
        expectKept(
          readSeveral(
            drawings.map((d) => d.drawing),
            measurer,
          ),
        );
      }),
      { numRuns: 120 },
    );
  });

  test('type whose sizes are not whole, at both widths', async () => {
    const screen = (width: number, size: number, line: number) =>
      svg(
        width,
        400,
        `<text id="t" font-family="Inter" font-size="${size}" x="40" y="80"><tspan x="40">The next boat to</tspan><tspan x="40" dy="${line}">Marrow Isle leaves soon</tspan></text>`,
      );
    const structure = await read([screen(1280, 40.5, 50 + 1.5e-14), screen(390, 24.71, 31.3)]);
    expectKept(structure);
    expect(structure.tokens?.map((t) => t.name)).toEqual(
      expect.arrayContaining([expect.stringMatching(/^type-40p5-24p71/)]),
    );
  });
});

describe('what no screen has is read in bounds', () => {
  test('a text of 200,000 characters', async () => {
    const words = 'Leaves 14:20 from pier 2. '.repeat(7700);
    const drawing = await openWithFonts(
      svg(1280, 400, `<text x="20" y="40" font-family="Inter" font-size="16">${words}</text>`),
    );
    expectKept(readStructure(drawing, await testMeasurer()));
  });

  test('a text of more than a million is cut, and told', async () => {
    const words = 'x'.repeat(1_000_100);
    const drawing = await openWithFonts(
      svg(1280, 400, `<text id="long" x="20" y="40" font-family="Inter" font-size="16">${words}</text>`),
    );
    expect(drawing.notes).toContainEqual({
      kind: 'fell back',
      text: 'Texts of more than 1000000 characters were cut.',
      items: ['long'],
    });
    expectKept(readStructure(drawing, await testMeasurer()));
  });

  test('a thousand boxes in each other', async () => {
    const boxes = Array.from(
      { length: 1000 },
      (_, i) =>
        `<rect id="b${i}" x="${i * 0.6}" y="${i}" width="${1280 - i * 1.2}" height="${2010 - i * 2}" fill="${i % 2 ? '#eee' : '#ddd'}"/>`,
    );
    const drawing = await openWithFonts(svg(1280, 2010, boxes.join('')));
    expect(drawing.notes.map((n) => n.text)).toContainEqual(
      expect.stringMatching(/^Boxes lie in each other more than 60 deep: the innermost \d+ are read/),
    );
    const structure = readStructure(drawing, await testMeasurer());
    expectKept(structure);
    expect([...walk(structure.root)].flatMap((p) => p.source)).toHaveLength(1000);
  });

  test('ids that are empty or without end, and names', async () => {
    const long = 'i'.repeat(5000);
    const drawing = openDrawing(
      svg(
        600,
        300,
        `<rect id="${long}" x="10" y="10" width="200" height="90" fill="#eee"/><rect id="${long}x" x="310" y="10" width="200" height="90" fill="#eee"/><text id="" x="20" y="60" font-family="${long}" font-size="16">Low Tarn</text>`,
      ),
      long,
    ).measure(await testMeasurer(), NO_DECISIONS);
    expect(new Set(drawing.items.map((i) => i.id)).size).toBe(3);
    expectKept(readStructure(drawing, await testMeasurer()));
  });
});
