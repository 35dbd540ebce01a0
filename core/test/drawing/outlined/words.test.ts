import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { NO_DECISIONS, openDrawing, type Drawing, type GlyphTable } from '@tinfold/core/drawing';
import { plainText } from '@tinfold/core/model';
import { faceFor, SHIPPED, type ShapedMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../../../../host/src/fonts.js';
import { shippedGlyphs } from '../../../../host/src/glyphs.js';
import { GlyphTable as Table } from '../../../src/drawing/outlined/glyphTable.js';

let table: GlyphTable;
let m: ShapedMeasurer;
beforeAll(async () => {
  table = shippedGlyphs();
  m = await loadMeasurer(
    SHIPPED.flatMap((f) => [400, 700].map((weight) => faceFor({ family: f.family, weight, italic: false }))),
  );
});

const style = (family: string, size: number, weight = 400, letterSpacing = 0) => ({
  family,
  size,
  weight,
  italic: false,
  letterSpacing,
  colour: '#000000',
});
const svg = (body: string, width = 900) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="300"><rect width="${width}" height="300" fill="#fff"/>${body}</svg>`;
const read = (source: string): Drawing =>
  openDrawing(source, 'x').withGlyphs([table]).measure(m, NO_DECISIONS);
const texts = (drawing: Drawing) =>
  drawing.items.flatMap((i) => (i.kind === 'text' ? [plainText(i.content)] : []));
const outlined = (words: string, s = style('Inter', 16), at = { x: 40, y: 80 }, fill = '#123456') =>
  `<path fill="${fill}" d="${m.outline(words, s, at)}"/>`;

describe('words as one path', () => {
  test.each(SHIPPED.filter((f) => f.weights.includes(400)).map((f) => f.family))('in %s', (family) => {
    const words = 'Sphinx of black quartz, judge my vow: 0123456789 (Ill O0)';
    const [item] = read(svg(outlined(words, style(family, 18)))).items;
    expect(item).toMatchObject({
      kind: 'text',
      content: { runs: [{ text: words, style: { family, size: 18, weight: 400, colour: '#123456' } }] },
    });
    if (item?.kind !== 'text') return;
    expect(item.lines[0]?.x).toBeCloseTo(40, 1);
    expect(item.lines[0]?.baseline).toBeCloseTo(80, 1);
  });

  test('of any letters, size, weight and letter-spacing', () => {
    // Without x, of which some fonts make a sign between figures, f, which ligatures begin with, l, which only words tell from I, and
    // y, which with an o before it is one letter of old Cyrillic.
    const letter = fc.constantFrom(...Array.from('abcdeghijkmnopqrstuvwzABCDEFGHKMNPRSTWYZ23456789'));
    const word = fc.array(letter, { minLength: 4, maxLength: 8 }).map((l) => l.join(''));
    fc.assert(
      fc.property(
        fc.array(word, { minLength: 2, maxLength: 4 }),
        fc.constantFrom('Inter', 'Roboto', 'Lato', 'Work Sans', 'Source Serif 4'),
        fc.constantFrom(11, 13, 16, 22.5, 40),
        fc.constantFrom(400, 700),
        fc.constantFrom(0, 0.08),
        (list, family, size, weight, spaced) => {
          const s = style(family, size, weight, spaced * size);
          const drawing = read(svg(outlined(list.join(' '), s), 4000));
          expect(texts(drawing)).toEqual([list.join(' ')]);
          const [item] = drawing.items;
          if (item?.kind !== 'text') throw new Error('It is no text.');
          const found = item.content.runs[0]?.style;
          expect(found).toMatchObject({ family, size, weight });
          expect(found?.letterSpacing).toBeCloseTo(s.letterSpacing, 1);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('with accents, ligatures and marks', () => {
    const words = 'Ångström déjà-vu “ﬁnal” — 50 % of €20; naïve fjord? office';
    const typed = words.replace('ﬁ', 'fi');
    expect(texts(read(svg(outlined(typed, style('Source Serif 4', 20)))))).toEqual([typed]);
  });

  test('in lines that make up a paragraph', () => {
    const lines = [
      'Leaves 14:20 from pier 2. Deck space for',
      'eighteen cars; foot passengers board by the',
      'north ramp.',
    ];
    const body = lines.map((l, i) => outlined(l, style('Inter', 15), { x: 40, y: 60 + i * 22 })).join('');
    const drawing = read(svg(body));
    expect(texts(drawing)).toEqual([lines.join(' ')]);
    expect(drawing.items[0]).toMatchObject({ content: { lineHeight: expect.closeTo(22, 1) as number } });
  });
});

describe('glyphs one by one', () => {
  test('by use, under a transform, beside an icon that stays one', () => {
    const letters = 'Sailings';
    const s = style('Barlow', 1);
    const symbols = Array.from(letters, (ch, i) => {
      const d = m.outline(ch, { ...s, size: 10 }, { x: 0, y: 0 });
      return `<symbol id="g${i}" overflow="visible"><path d="${d}"/></symbol>`;
    });
    let x = 60;
    const uses = Array.from(letters, (ch, i) => {
      const at = x;
      x += m.width(ch, { ...s, size: 20 });
      return `<use href="#g${i}" transform="matrix(2 0 0 2 ${at} 80)" fill="#204060"/>`;
    });
    const icon =
      '<path d="M30 66h16v16h-16zM33 69h4v10h-4z" fill="#204060"/><path d="M20 60l6 8-8 3z" fill="#204060"/>';
    const drawing = read(svg(`<defs>${symbols.join('')}</defs>${icon}${uses.join('')}`));
    expect(texts(drawing)).toEqual(['Sailings']);
    expect(drawing.items.filter((i) => i.kind === 'art')).toHaveLength(1);
    expect(drawing.notes.map((n) => n.text)).toContain(
      'words were outlines: read as Barlow 20 (100 % of 8 glyphs)',
    );
  });

  test('that look alike are told apart by what stands beside them', () => {
    for (const words of ['Illness ill Illegal', 'ISLAND 1 of 10 isles', 'total 1010 lots'])
      expect(texts(read(svg(outlined(words, style('Barlow', 16)))))).toEqual([words]);
  });
});

describe('what is no word', () => {
  test.each([
    ['a plus', 'M40 46h6v-6h4v6h6v4h-6v6h-4v-6h-6z'],
    ['a ring', 'M40 50a10 10 0 1 0 20 0a10 10 0 1 0 -20 0zM44 50a6 6 0 1 1 12 0a6 6 0 1 1 -12 0z'],
    ['a chevron', 'M40 40l10 10-10 10-2-2 8-8-8-8z'],
    ['three bars', 'M40 40h16v2h-16zM40 46h16v2h-16zM40 52h16v2h-16z'],
  ])('%s stays an icon', (_, d) => {
    expect(texts(read(svg(`<path d="${d}" fill="#111"/>`)))).toEqual([]);
  });
});

describe('the table of glyphs', () => {
  test('comes back from its bytes', () => {
    const again = Table.fromBytes(table.toBytes());
    expect([again.glyphCount, again.shapeCount]).toEqual([table.glyphCount, table.shapeCount]);
    for (const glyph of [0, 777, table.glyphCount - 1]) {
      expect(again.textOf(glyph)).toBe(table.textOf(glyph));
      expect(again.contoursOf(glyph)).toEqual(table.contoursOf(glyph));
    }
    expect(() => Table.fromBytes(new Uint8Array(20))).toThrow('The table of glyphs is not one');
  });

  test('holds a style for each shipped face', () => {
    const faces = SHIPPED.reduce((sum, f) => sum + f.weights.length + f.italics.length, 0);
    expect(table.styles).toHaveLength(faces);
  });
});

describe('files of converters', () => {
  const drawn = readFileSync(new URL('../../../../demo/boarding-pass-390.svg', import.meta.url), 'utf8');
  test.each(['poppler', 'mupdf', 'librsvg'])(
    'the boarding pass by %s says what the drawing says',
    async (by) => {
      const file = new URL(`../../../../demo/exported/boarding-pass-390.${by}.svg`, import.meta.url);
      const [was, is] = [
        openDrawing(drawn, 'x'),
        openDrawing(readFileSync(file, 'utf8'), 'x').withGlyphs([table]),
      ];
      const measurer = await loadMeasurer([...was.faces(), ...is.faces()]);
      const [a, b] = [was.measure(measurer, NO_DECISIONS), is.measure(measurer, NO_DECISIONS)];
      // Printing makes whole points of the frame.
      expect(Math.abs(b.width - a.width)).toBeLessThanOrEqual(1);
      expect(texts(b).join(' ').split(/\s+/).sort()).toEqual(texts(a).join(' ').split(/\s+/).sort());
      // Boxes are boxes again.
      const boxes = (d: Drawing) => d.items.filter((i) => i.kind === 'shape' && i.box.width > 60).length;
      expect(boxes(b)).toBeGreaterThanOrEqual(boxes(a));
    },
  );
});
