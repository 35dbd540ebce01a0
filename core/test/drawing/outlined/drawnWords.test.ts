import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { SVGPathData } from 'svg-pathdata';
import { beforeAll, describe, expect, test } from 'vitest';
import {
  drawnFontsIn,
  NO_DECISIONS,
  openDrawing,
  teach,
  type Drawing,
  type DrawingDecisions,
  type TextItem,
} from '@tinfold/core/drawing';
import { exportHtml } from '@tinfold/core/handoff';
import { readStructure } from '@tinfold/core/infer';
import { plainText, UNREAD, walk, type TextRun } from '@tinfold/core/model';
import { breakLines, faceFor, runWidth, SHIPPED, type ShapedMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../../../../host/src/fonts.js';
import { contoursOf } from '../../../src/drawing/outlined/contours.js';
import { GlyphCodes } from '../../../src/drawing/outlined/drawnGlyphs.js';

let m: ShapedMeasurer;
beforeAll(async () => {
  m = await loadMeasurer(
    SHIPPED.flatMap((f) =>
      [400, 500, 600, 700].map((weight) => faceFor({ family: f.family, weight, italic: false })),
    ),
  );
});

const style = (family: string, size: number, weight = 400) => ({
  family,
  size,
  weight,
  italic: false,
  letterSpacing: 0,
  colour: '#1d2f3a',
});
const svg = (body: string, width = 1200) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="400"><rect width="${width}" height="400" fill="#fff"/>${body}</svg>`;
/** No font at all is known. */
const read = (source: string, decisions: DrawingDecisions = NO_DECISIONS): Drawing =>
  openDrawing(source, 'x').withGlyphs([]).measure(m, decisions);
const outlined = (words: string, s = style('Inter', 16), at = { x: 40, y: 80 }) =>
  `<path fill="${s.colour}" d="${m.outline(words, s, at)}"/>`;
const textsIn = (drawing: Drawing): TextItem[] => drawing.items.filter((i) => i.kind === 'text');
const words = (item: TextItem | undefined): TextRun[] =>
  item?.content.runs.filter((r) => r.drawn && r.drawn.d !== '') ?? [];

/** From where to where the ink of words in a line reaches, px. */
function inkOf(text: string, s: ReturnType<typeof style>, x: number): [number, number][] {
  return [...text.matchAll(/\S+/g)].map((found) => {
    const from = x + m.width(text.slice(0, found.index), s);
    const { minX, maxX } = new SVGPathData(m.outline(found[0], s, { x: from, y: 0 })).getBounds();
    return [minX, maxX];
  });
}

const SENTENCE = 'Leaves pier two every day but Sunday, with room for eighteen cars';

describe('words of a font that is not here', () => {
  test('are drawn words, each within 1.5 px of where it was, of any family, size and weight', () => {
    const noun = fc.constantFrom(
      'harbour',
      'quay',
      'Marrow',
      'skerry',
      'passengers',
      'Tarn',
      'deck',
      'jetty',
    );
    let [all, back] = [0, 0];
    fc.assert(
      fc.property(
        fc.array(noun, { minLength: 3, maxLength: 7 }),
        fc.constantFrom('Inter', 'Lato', 'Roboto', 'Work Sans', 'Source Serif 4', 'Barlow'),
        fc.constantFrom(12, 14, 16, 20, 32),
        fc.constantFrom(400, 700),
        (list, family, size, weight) => {
          const [text, s] = [list.join(' '), style(family, size, weight)];
          const [item] = textsIn(read(svg(outlined(text, s), 3000)));
          let x = item?.lines[0]?.x ?? 0;
          const found = (item?.content.runs ?? []).flatMap((run) => {
            const from = x;
            x += runWidth(run, m);
            if (!run.drawn?.d) return [];
            const { minX, maxX } = new SVGPathData(run.drawn.d).getBounds();
            return [[from + minX, from + maxX] as const];
          });
          for (const [left, right] of inkOf(text, s, 40)) {
            all++;
            if (found.some(([a, b]) => Math.abs(a - left) < 1.5 && Math.abs(b - right) < 1.5)) back++;
          }
          expect(item?.lines[0]?.baseline).toBeCloseTo(80, 0);
        },
      ),
      { numRuns: 150 },
    );
    expect(back / all).toBeGreaterThan(0.97);
  });

  test('make paragraphs that break at their spaces', () => {
    const s = style('Lato', 16);
    const lines = breakLines(
      { kind: 'text', runs: [{ text: SENTENCE, style: s }], lineHeight: 24, align: 'start' },
      220,
      m,
    );
    expect(lines.length).toBeGreaterThan(2);
    const body = lines.map(({ runs }, i) =>
      outlined(runs.map((r) => r.text).join(''), s, { x: 40, y: 80 + i * 24 }),
    );
    const items = textsIn(read(svg(body.join(''))));
    expect(items).toHaveLength(1);
    expect(items[0]?.content.lineHeight).toBeCloseTo(24, 1);
    expect(words(items[0])).toHaveLength(SENTENCE.split(' ').length);
    // Where words break at another width, too, differs by their side bearings alone.
    for (const width of [140, 180, 300, 400]) {
      const real = breakLines(
        { kind: 'text', runs: [{ text: SENTENCE, style: s }], lineHeight: 24, align: 'start' },
        width,
        m,
      );
      const drawn = breakLines(items[0]?.content as TextItem['content'], width, m);
      expect(Math.abs(drawn.length - real.length)).toBeLessThanOrEqual(1);
    }
  });

  test('are no icons, and icons are no words', () => {
    const icon =
      '<path fill="#1d2f3a" d="M40 40h16v16h-16zM43 43v10h4v-10z"/><path fill="#1d2f3a" d="M70 40l8 16h-16z"/><path fill="#1d2f3a" d="M110 40a8 8 0 1 0 .01 0zM110 44a4 4 0 1 1 -.01 0z"/>';
    expect(textsIn(read(svg(icon)))).toEqual([]);
    const both = read(svg(icon + outlined(SENTENCE, style('Inter', 16), { x: 40, y: 120 })));
    expect(textsIn(both)).toHaveLength(1);
  });

  test('that are short are words where their letters are seen elsewhere', () => {
    const long = outlined(SENTENCE, style('Work Sans', 16), { x: 40, y: 80 });
    const short = outlined('in', style('Work Sans', 20), { x: 40, y: 140 });
    expect(textsIn(read(svg(short)))).toHaveLength(0);
    expect(textsIn(read(svg(long + short)))).toHaveLength(2);
  });

  test('are told by font: weights apart, sizes together', () => {
    const body = [
      outlined(SENTENCE, style('Inter', 16), { x: 40, y: 80 }),
      outlined('Sunday with cars', style('Inter', 24), { x: 40, y: 140 }),
      outlined(SENTENCE, style('Inter', 16, 700), { x: 40, y: 200 }),
    ];
    const drawing = read(svg(body.join('')));
    expect(
      drawnFontsIn(drawing)
        .map((f) => f.items.length)
        .sort(),
    ).toEqual([1, 2]);
    const sizes = textsIn(drawing).map((t) => t.content.runs[0]?.style.size ?? 0);
    expect((sizes[1] ?? 0) / (sizes[0] ?? 1)).toBeCloseTo(1.5, 1);
    expect(drawing.notes.filter((n) => n.text.includes('kept as they are drawn'))).toHaveLength(2);
  });
});

test('more shapes than there are private characters share some', () => {
  const codes = new GlyphCodes();
  const given = new Set<string>();
  // A step of some width and height, and another beside it.
  const step = (n: number, x: number) => {
    const [a, b] = [50 + (n % 10) * 50, 50 + Math.floor(n / 10) * 50];
    return `M${x} 0h600v${600 - b}h-${a}v${b}h-${600 - a}z`;
  };
  for (let i = 0; i < 8_100; i++) {
    const [one, other] = [i % 90, Math.floor(i / 90)];
    const contours = contoursOf(step(one, 0) + step(other, 700 + other * 40));
    const bounds = { left: 0, top: 0, right: 1300 + other * 40, bottom: 600 };
    given.add(codes.codeOf({ ...bounds, paint: '', pieces: [i], contours }));
  }
  expect(given.size).toBe(6_400);
});

describe('what drawn words say', () => {
  const source = () =>
    svg(
      outlined('room for eighteen cars', style('Lato', 18), { x: 40, y: 80 }) +
        outlined('more room', style('Lato', 18), { x: 40, y: 140 }),
    );

  test('is learnt letter by letter, so that other words are read', () => {
    const [first, second] = textsIn(read(source()));
    expect(UNREAD.test(plainText(first?.content as never))).toBe(true);
    const taught = teach(first as TextItem, ' room for  eighteen cars ');
    if ('refusal' in taught) throw new Error(taught.refusal);
    const again = textsIn(read(source(), { ...NO_DECISIONS, said: taught.said }));
    expect(again.map((t) => plainText(t.content))).toEqual(['room for eighteen cars', 'more room']);
    // It still looks as it was drawn.
    expect(words(again[1]).map((w) => w.drawn)).toEqual(words(second).map((w) => w.drawn));
  });

  test('is refused where words are missing, with a sentence', () => {
    const [first] = textsIn(read(source()));
    expect(teach(first as TextItem, 'room for')).toEqual({
      refusal: 'The text shows 4 words, but 2 were typed: type them with one space between two.',
    });
  });

  test('is set in a font of its own, in the drawn size', () => {
    const [first] = textsIn(read(source()));
    const taught = teach(first as TextItem, 'room for eighteen cars');
    if ('refusal' in taught) throw new Error(taught.refusal);
    const [name] = drawnFontsIn(read(source())).map((f) => f.name);
    const setIn = [{ drawn: name ?? '', family: 'Lato', weight: 400, italic: false }];
    const drawing = read(source(), { ...NO_DECISIONS, said: taught.said, setIn });
    expect(textsIn(drawing).map((t) => t.content.runs)).toEqual(
      ['room for eighteen cars', 'more room'].map((text) => [{ text, style: style('Lato', 18) }]),
    );
    expect(drawnFontsIn(drawing)).toEqual([]);
    // What is not said yet stays as it is drawn.
    const half = read(source(), { ...NO_DECISIONS, said: taught.said.slice(0, 4), setIn });
    expect(drawnFontsIn(half)[0]?.unread.length).toBeGreaterThan(0);
  });
});

test('the boarding pass in a face that is nowhere: as many words, read and exported', () => {
  const at = (name: string) =>
    readFileSync(new URL(`../../../../demo/exported/boarding-pass-390.${name}.svg`, import.meta.url), 'utf8');
  const foreign = read(at('foreign'));
  const plain = openDrawing(
    readFileSync(new URL('../../../../demo/boarding-pass-390.svg', import.meta.url), 'utf8'),
    'x',
  ).measure(m, NO_DECISIONS);
  const count = (d: Drawing) =>
    textsIn(d).reduce(
      (n, t) =>
        n +
        plainText(t.content)
          .split(/\s+/)
          .filter((w) => w !== '').length,
      0,
    );
  // One figure alone in a weight of its own is told by nothing.
  expect(count(foreign)).toBeGreaterThanOrEqual(count(plain) - 1);
  const structure = readStructure(foreign, m);
  const [html] = exportHtml(structure);
  const drawn = [...walk(structure.root)].flatMap((p) =>
    p.content?.kind === 'text' ? p.content.runs.filter((r) => r.drawn?.d) : [],
  );
  expect(html.text.match(/<svg class="run-\d+ drawn-word"/g)).toHaveLength(drawn.length);
});
