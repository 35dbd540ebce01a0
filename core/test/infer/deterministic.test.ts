import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { NO_DECISIONS, openDrawing, type Drawing } from '@tinfold/core/drawing';
import { readStructure } from '@tinfold/core/infer';
import { overlap, type Part } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { expectOfMost, MINUTES, pageCases, patternCases } from '../support/benchmark.js';

const DEMO = new URL('../../../demo/', import.meta.url);
const files = readdirSync(DEMO).filter((f) => f.endsWith('.svg'));

async function open(source: string): Promise<{ drawing: Drawing; m: TextMeasurer }> {
  const opened = openDrawing(source, 'Screen');
  const m = await loadMeasurer(opened.faces());
  return { drawing: opened.measure(m, NO_DECISIONS), m };
}

/** The tree without what names it: flows, rules and overrides, with the words of its texts. */
const shape = (part: Part): unknown => [
  part.kind,
  part.rules,
  part.below ?? [],
  part.content?.kind === 'text' ? part.content.runs.map((r) => r.text).join('') : '',
  part.children.map(shape),
];

/** The file without ids that nothing in it refers to. */
const withoutIds = (source: string): string =>
  source.replace(/ id="([^"]+)"/g, (whole, id: string) => (source.includes(`#${id}`) ? whole : ''));

/** The drawing with things that lie apart painted in another order, as another exporter would write it. */
function shuffled(drawing: Drawing, seed: number): Drawing {
  const items = [...drawing.items];
  let state = seed;
  for (let k = 0; k < items.length * 20; k++) {
    state = (state * 1103515245 + 12345) % 2147483648;
    const i = state % Math.max(1, items.length - 1);
    const [a, b] = [items[i], items[i + 1]];
    if (!a || !b) continue;
    const [w, h] = overlap(a.box, b.box);
    if (w < -2 || h < -2) [items[i], items[i + 1]] = [b, a];
  }
  return { ...drawing, items };
}

describe('reading the same drawing again', () => {
  const expectSameShuffled = async (file: URL): Promise<void> => {
    const { drawing, m } = await open(readFileSync(file, 'utf8'));
    const asDrawn = shape(readStructure(drawing, m).root);
    for (const seed of [7, 1871])
      expect(shape(readStructure(shuffled(drawing, seed), m).root)).toEqual(asDrawn);
  };

  test.each([
    ...files.map((f) => [f, new URL(f, DEMO)] as const),
    ...patternCases.map(({ name, files: [source] }) => [name, source as URL] as const),
  ])('%s gives the same structure when what lies apart is painted in another order', (_, file) =>
    expectSameShuffled(file),
  );

  test.runIf(pageCases.length > 0)(
    'eight in ten real pages give the same structure then, too',
    () =>
      expectOfMost(
        pageCases,
        0.8,
        (c) => c.name,
        ({ files: [source] }) => expectSameShuffled(source as URL),
      ),
    MINUTES,
  );

  test.each(files)('%s gives the same bytes', async (file) => {
    const source = readFileSync(new URL(file, DEMO), 'utf8');
    const [a, b] = [await open(source), await open(source)];
    expect(JSON.stringify(readStructure(a.drawing, a.m))).toBe(JSON.stringify(readStructure(b.drawing, b.m)));
  });

  test.each(files)('%s gives the same structure without ids', async (file) => {
    const source = readFileSync(new URL(file, DEMO), 'utf8');
    const [named, bare] = [await open(source), await open(withoutIds(source))];
    expect(shape(readStructure(bare.drawing, bare.m).root)).toEqual(
      shape(readStructure(named.drawing, named.m).root),
    );
  });

  test('items that lie over nothing may come in any order', async () => {
    const body = [
      '<rect x="40" y="40" width="320" height="116" fill="#e3ecea"/>',
      '<rect x="40" y="180" width="320" height="116" fill="#e3ecea"/>',
    ];
    const words = [
      '<text x="56" y="72">Marrow Isle</text>',
      '<text x="56" y="104">14:20</text>',
      '<text x="56" y="212">Low Tarn</text>',
      '<text x="56" y="244">14:55</text>',
    ];
    const draw = (items: readonly string[]) =>
      `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="340" font-family="Inter" font-size="16">${items.join('')}</svg>`;
    const [a, b] = [
      await open(draw([...body, ...words])),
      await open(draw([...body.toReversed(), ...words.toReversed()])),
    ];
    expect(shape(readStructure(b.drawing, b.m).root)).toEqual(shape(readStructure(a.drawing, a.m).root));
  });
});
