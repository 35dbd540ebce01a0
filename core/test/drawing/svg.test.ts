import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { DrawingError, measureDrawing, readSvg, type Drawing, type Item } from '@tinfold/core/drawing';
import { round, type Rect } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { testMeasurer } from '../support/fonts.js';

const PIXEL =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAIAAAACCAIAAAD91JpzAAAAFklEQVR4nGPwiVrhE7WCwcpjmpXHNAAhrATNzWTrGQAAAABJRU5ErkJggg==';

describe('reading SVG', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  const read = (body: string, attributes = 'width="400" height="300"'): Drawing =>
    measureDrawing(readSvg(`<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${body}</svg>`, 'Test'), m);
  const item = (drawing: Drawing, id: string): Item => {
    const found = drawing.items.find((i) => i.id === id);
    if (!found) throw new Error(`no item ${id} among ${drawing.items.map((i) => i.id).join()}`);
    return found;
  };
  const numbers = (b: Rect) => [b.x, b.y, b.width, b.height].map((n) => round(n, 2));

  test.each<[string, string, number[]]>([
    ['a rectangle', '<rect id="a" x="10" y="20" width="30" height="40" fill="#123456"/>', [10, 20, 30, 40]],
    [
      'its stroke outside',
      '<rect id="a" x="10.5" y="20.5" width="29" height="39" fill="none" stroke="red"/>',
      [10, 20, 30, 40],
    ],
    ['a circle', '<circle id="a" cx="50" cy="50" r="20" fill="red"/>', [30, 30, 40, 40]],
    ['an ellipse', '<ellipse id="a" cx="50" cy="50" rx="20" ry="10" fill="red"/>', [30, 40, 40, 20]],
    [
      'a level line with its stroke',
      '<line id="a" x1="10" y1="20" x2="110" y2="20" stroke="red" stroke-width="2"/>',
      [10, 19, 100, 2],
    ],
    ['a polygon', '<polygon id="a" points="10,10 50,10 30,40" fill="red"/>', [10, 10, 40, 30]],
    [
      'a path with a curve beyond its points',
      '<path id="a" d="M0 50C0 0 100 0 100 50Z" fill="red"/>',
      [0, 12.5, 100, 37.5],
    ],
    ['an arc', '<path id="a" d="M10 50a40 40 0 0 1 80 0z" fill="red"/>', [10, 10, 80, 40]],
    [
      'nested transforms',
      '<g transform="translate(10 20)"><g transform="scale(2)"><rect id="a" x="5" y="5" width="10" height="10" fill="red"/></g></g>',
      [20, 30, 20, 20],
    ],
    [
      'a turned rectangle by its outer box',
      '<rect id="a" x="0" y="0" width="10" height="20" transform="translate(50 50) rotate(90)" fill="red"/>',
      [30, 50, 20, 10],
    ],
    [
      'a matrix',
      '<rect id="a" width="10" height="10" transform="matrix(1 0 0 1 7.5 8.25)" fill="red"/>',
      [7.5, 8.25, 10, 10],
    ],
    [
      'a use of a symbol',
      '<symbol id="s" viewBox="0 0 10 10"><path d="M0 0H10V10H0Z" fill="red"/></symbol><use id="a" href="#s" x="20" y="30" width="40" height="40"/>',
      [20, 30, 40, 40],
    ],
    ['a picture', `<image id="a" x="10" y="10" width="80" height="60" href="${PIXEL}"/>`, [10, 10, 80, 60]],
    [
      'a picture cropped by a clip',
      `<clipPath id="c"><rect x="20" y="20" width="30" height="30" rx="4"/></clipPath><image id="a" x="10" y="10" width="80" height="60" clip-path="url(#c)" href="${PIXEL}"/>`,
      [20, 20, 30, 30],
    ],
    [
      'a shape filled with a picture',
      `<pattern id="p" width="1" height="1"><image width="2" height="2" href="${PIXEL}"/></pattern><rect id="a" x="5" y="5" width="50" height="50" fill="url(#p)"/>`,
      [5, 5, 50, 50],
    ],
    [
      'percentages of the frame',
      '<rect id="a" x="10%" y="50%" width="50%" height="10%" fill="red"/>',
      [40, 150, 200, 30],
    ],
  ])('%s', (_, body, box) => {
    expect(numbers(item(read(body), 'a').box)).toEqual(box);
  });

  test('a viewBox scales and moves', () => {
    const drawing = read(
      '<rect id="a" x="10" y="10" width="10" height="10" fill="red"/>',
      'width="200" height="100" viewBox="10 10 100 50"',
    );
    expect(numbers(item(drawing, 'a').box)).toEqual([0, 0, 20, 20]);
  });

  test('the style attribute wins over the block, the block over the attribute, an id over a class', () => {
    const paintOf = (body: string) =>
      item(read(`<style>.w{fill:#00ff00} #a.w{fill:#0000ff} rect{fill:#ff00ff}</style>${body}`), 'a').paint
        .fill;
    expect(
      paintOf(
        '<rect id="b" class="w" width="9" height="9"/><rect id="a" class="w" width="9" height="9" fill="red"/>',
      ),
    ).toEqual({ kind: 'solid', colour: '#0000ff' });
    expect(paintOf('<rect id="a" class="w" style="fill:#112233" width="9" height="9"/>')).toEqual({
      kind: 'solid',
      colour: '#112233',
    });
    expect(paintOf('<rect id="a" fill="red" width="9" height="9"/>')).toEqual({
      kind: 'solid',
      colour: '#ff00ff',
    });
  });

  test('the pieces of a named group are one icon; a button behind its sign stays apart', () => {
    const icon = read(
      '<g id="mark"><circle cx="10" cy="10" r="8" fill="none" stroke="red"/><path d="M10 6v8" stroke="red"/></g>',
    );
    expect(icon.items.map((i) => [i.id, i.kind])).toEqual([['mark', 'art']]);
    const button = read(
      '<g id="big"><rect id="back" width="120" height="40" fill="red"/><path id="sign" d="M10 10h20v20z" fill="blue"/></g>',
    );
    expect(button.items.map((i) => i.id)).toEqual(['back', 'sign']);
  });

  test('a paragraph stays one where pieces of another type make some of its lines higher', () => {
    const lines = [100, 124, 150, 174, 198];
    const spans = lines.map((y) => `<tspan x="40" y="${y}">Foot passengers board by the north ramp</tspan>`);
    const { items } = read(`<text font-family="Inter" font-size="16">${spans.join('')}</text>`);
    expect(items).toHaveLength(1);
    expect(items[0]).toMatchObject({ content: { lineHeight: 24.5 } });
    // Lines at clearly unlike distances are texts of their own.
    const apart = spans.join('').replace('y="198"', 'y="230"');
    expect(read(`<text font-family="Inter" font-size="16">${apart}</text>`).items).toHaveLength(5);
  });

  test('spaces that meet where one tspan ends and another begins are one', () => {
    const words = item(
      read(
        '<text id="a" x="10" y="40" font-family="Inter" font-size="16">Low Tarn <tspan font-weight="700"> pier 2</tspan></text>',
      ),
      'a',
    );
    if (words.kind !== 'text') throw new Error('It is no text.');
    expect(words.content.runs.map((r) => r.text)).toEqual(['Low Tarn ', 'pier 2']);
  });

  test('tspans below each other are one paragraph with the pitch as its line height', () => {
    const drawing = read(
      '<text id="a" font-family="Inter" font-size="16"><tspan x="10" y="40">Leaves 14:20 from</tspan><tspan x="10" y="64">pier 2</tspan></text>',
    );
    const text = item(drawing, 'a');
    expect(
      text.kind === 'text' && [text.content.runs[0]?.text, text.content.lineHeight, text.lines.length],
    ).toEqual(['Leaves 14:20 from pier 2', 24, 2]);
    expect(numbers(text.box).slice(1, 2).concat(text.box.height)).toEqual([22, 48]);
  });

  test('lines of code keep the spaces that they are indented by', () => {
    const two =
      2 *
      m.width('\u00a0', {
        family: 'Inter',
        size: 16,
        weight: 400,
        italic: false,
        letterSpacing: 0,
        colour: '#000',
      });
    const code = item(
      read(
        `<text id="a" font-family="Inter" font-size="16"><tspan x="10" y="40">pier {</tspan><tspan x="${10 + two}" y="64">quay: 2;</tspan><tspan x="10" y="88">}</tspan></text>`,
      ),
      'a',
    );
    if (code.kind !== 'text') throw new Error('It is no text.');
    expect(code.content.runs.map((r) => r.text).join('')).toBe('pier {\n\u00a0\u00a0quay: 2;\n}');
    expect(code.lines.map((l) => l.x)).toEqual([10, 10, 10]);
  });

  test('an anchor moves the words, and runs keep their styles', () => {
    const drawing = read(
      '<text id="a" x="200" y="40" text-anchor="middle" font-family="Inter" font-size="16">Full <tspan font-weight="700">now</tspan></text>',
    );
    const text = item(drawing, 'a');
    expect(text.box.x + text.box.width / 2).toBeCloseTo(200, 3);
    expect(text.kind === 'text' && text.content.runs.map((r) => [r.text, r.style.weight])).toEqual([
      ['Full ', 400],
      ['now', 700],
    ]);
  });

  test('the shape that covers the frame is its background', () => {
    const drawing = read(
      '<rect id="back" width="400" height="300" fill="#fafafa"/><rect id="a" width="10" height="10" fill="red"/>',
    );
    expect([drawing.backgroundIds, drawing.background.fill, drawing.items.length]).toEqual([
      ['back'],
      { kind: 'solid', colour: '#fafafa' },
      1,
    ]);
  });

  test.each([
    ['hidden', '<rect display="none" width="9" height="9"/>', /hidden element/],
    ['without paint', '<rect fill="none" width="9" height="9"/>', /without any paint/],
    ['off the frame', '<rect x="900" width="9" height="9" fill="red"/>', /outside the frame/],
    ['unknown', '<video width="9" height="9"/>', /“video” is not read/],
    [
      'a picture from elsewhere',
      '<image width="9" height="9" href="https://example.invalid/a.png"/>',
      /placeholders/,
    ],
    ['a circle of uses', '<g id="g"><use href="#g"/></g><use href="#g"/>', /contains itself/],
    ['malformed path data', '<path d="M0 0L10" fill="red"/><path d="MX" fill="red"/>', /malformed/],
    [
      'a font that does not ship',
      '<text y="20" font-family="Aster Sans">Pier</text>',
      /“Aster Sans” is not here: measured with Inter/,
    ],
  ])('%s is listed', (_, body, note) => {
    expect(
      read(body)
        .notes.map((n) => n.text)
        .join(' '),
    ).toMatch(note);
  });

  test.each([
    ['nothing', '', /is empty/],
    ['a bitmap', '\u0089PNG\r\n\u001a\n', /not an SVG/],
    ['no size', '<svg xmlns="http://www.w3.org/2000/svg"/>', /has no size/],
    ['a cut-off file', '<svg width="9" height="9"><g>', /not well-formed/],
    ['entities', '<!DOCTYPE svg [<!ENTITY a "b">]><svg width="9" height="9"/>', /declares XML entities/],
    ['deep nesting', `<svg width="9" height="9">${'<g>'.repeat(400)}`, /nests deeper/],
    ['HTML', '<html><body><svg/></body></html>', /outermost element is “html”/],
  ])('%s is refused in one sentence', (_, source, reason) => {
    expect(() => readSvg(source, 'x')).toThrow(DrawingError);
    expect(() => readSvg(source, 'x')).toThrow(reason);
  });

  test('mutated drawings end in items with finite boxes or in one sentence', () => {
    const source = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200" viewBox="0 0 300 200"><style>.t{fill:#123}</style><defs><clipPath id="c"><rect width="50" height="50"/></clipPath></defs><g id="g" transform="translate(5 5) scale(1.5)"><rect id="r" x="1" y="2" width="30" height="20" rx="3" class="t"/><path d="M1 1C2 2 3 3 40 4z" fill="#456"/><use href="#r" x="40"/></g><text x="10" y="90" font-size="14" font-family="Inter"><tspan x="10" y="90">Low Tarn</tspan><tspan x="10" y="110">pier</tspan></text><image x="9" y="9" width="40" height="30" clip-path="url(#c)" href="${PIXEL}"/></svg>`;
    const mutation = fc.record({
      at: fc.nat(source.length),
      cut: fc.nat(12),
      put: fc.constantFrom(
        '',
        '1e400',
        '-',
        '"',
        '<',
        '/>',
        'NaN',
        '%',
        ' ',
        '999999999',
        'url(#g)',
        '#g',
        '\u0000',
      ),
    });
    fc.assert(
      fc.property(fc.array(mutation, { minLength: 1, maxLength: 4 }), (mutations) => {
        const mutated = mutations.reduce(
          (s, { at, cut, put }) => s.slice(0, at) + put + s.slice(at + cut),
          source,
        );
        let drawing: Drawing;
        try {
          drawing = read2(mutated);
        } catch (error) {
          expect(error).toBeInstanceOf(DrawingError);
          expect((error as Error).message).toMatch(/^[A-Z].*\.$/s);
          return;
        }
        for (const { box } of drawing.items) expect(Object.values(box).every(Number.isFinite)).toBe(true);
      }),
      { numRuns: 2000 },
    );
  });

  const read2 = (source: string): Drawing => {
    const raw = readSvg(source, 'x');
    // The fuzzed family may be any; all are measured with one that is loaded.
    const items = raw.items.map((i) =>
      i.kind === 'text'
        ? {
            ...i,
            chunks: i.chunks.map((c) => ({
              ...c,
              runs: c.runs.map((r) => ({
                ...r,
                style: { ...r.style, family: 'Inter', weight: 400, italic: false },
              })),
            })),
          }
        : i,
    );
    return measureDrawing({ ...raw, items }, m);
  };
});
