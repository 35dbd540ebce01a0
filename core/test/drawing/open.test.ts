import { existsSync, readFileSync } from 'node:fs';
import { toJsonSchema } from '@valibot/to-json-schema';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { DrawingError, openDrawing, type Drawing } from '@tinfold/core/drawing';
import { exportHtml } from '@tinfold/core/handoff';
import { readStructure } from '@tinfold/core/infer';
import { DrawingSchema } from '../../src/drawing/jsonItems.js';
import { openWithFonts, testMeasurer } from '../support/fonts.js';

const page = (body: string, style = ''): string =>
  `<!DOCTYPE html><html><head><style>body{margin:0;font:16px/24px Inter}${style}</style></head><body>${body}</body></html>`;
const ids = (d: Drawing) => d.items.map((i) => i.id);
const notes = (d: Drawing) => d.notes.map((n) => n.text);

describe('a file is opened by what it holds', () => {
  test.each([
    [
      'an SVG drawing',
      '<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><rect id="a" x="9" width="20" height="20"/></svg>',
    ],
    [
      'an HTML page',
      page(
        '<div id="a" style="position:absolute;left:9px;width:20px;height:20px;background:#000"></div><i style="position:absolute;width:300px"></i>',
      ),
    ],
    [
      'a piece of HTML',
      '<div id="a" style="position:absolute;left:9px;top:0;width:20px;height:20px;background:#000"></div>',
    ],
    [
      'JSON',
      '{"format":"tinfold-drawing","version":1,"width":300,"height":200,"items":[{"kind":"box","id":"a","x":9,"y":0,"width":20,"height":20,"fill":"#000"}]}',
    ],
  ])('%s', async (_, source) => {
    const d = await openWithFonts(source);
    expect(d.items).toHaveLength(1);
    expect(d.items[0]).toMatchObject({ id: 'a', box: { x: 9, y: 0, width: 20, height: 20 } });
  });

  test.each([
    ['an empty file', '  '],
    ['prose', 'Ferries leave at noon.'],
    ['JSON of another kind', '{"items":[]}'],
    ['broken JSON', '{"format":'],
    [
      'JSON with one id twice',
      '{"format":"tinfold-drawing","version":1,"width":9,"height":9,"items":[{"kind":"box","id":"a","x":0,"y":0,"width":1,"height":1},{"kind":"box","id":"a","x":0,"y":0,"width":1,"height":1}]}',
    ],
    ['HTML of 300 levels', page('<div>'.repeat(300))],
  ])('%s is refused in one sentence', (_, source) => {
    expect(() => openDrawing(source, 'x')).toThrow(DrawingError);
    expect(() => openDrawing(source, 'x')).toThrow(/^[A-Z].*\.$/s);
  });
});

describe('HTML', () => {
  test('nothing runs and nothing is fetched, and what is left out is told', async () => {
    const d = await openWithFonts(
      page(
        '<script>alert(1)</script><link rel="stylesheet" href="https://x.example/a.css"><img id="p" src="https://x.example/a.png" width="40" height="40" style="position:absolute"><iframe src="//x"></iframe><a href="javascript:alert(1)" onclick="alert(1)">Go</a><div style="display:none">gone</div>',
      ),
    );
    expect(notes(d).join('\n')).toMatch(/style sheet “https:\/\/x\.example\/a\.css” is not in the file/);
    expect(notes(d).join('\n')).toMatch(/scripts, which are never run/);
    expect(notes(d).join('\n')).toMatch(/1 hidden element left out/);
    const files = exportHtml(readStructure(d, await testMeasurer()))
      .map((f) => f.text)
      .join('\n');
    expect(files).not.toMatch(/<script|javascript:|<iframe|https:|onclick=/);
  });

  test.each([
    ['blocks one below another', '<div id="bar"><p>One</p><p>Two</p></div>'],
    ['things beside each other', '<div id="bar" style="display:flex"><i>One</i><i>Two</i></div>'],
    ['a picture among words', '<p id="bar">One <img width="9" height="9"> two</p>'],
    ['a table', '<table id="t"><tr id="bar"><td>One</td><td>Two</td></tr></table>'],
    ['a width that is a sum', '<div id="bar" style="width:calc(100% - 20px);height:9px"></div>'],
  ])('%s: a page that lays itself out is refused with its place', async (_, body) => {
    await expect(openWithFonts(page(body))).rejects.toThrow(DrawingError);
    await expect(openWithFonts(page(body))).rejects.toThrow(/^The page lays itself out at “bar”: .*\.$/);
  });

  test('a single box in another needs no place of its own', async () => {
    const d = await openWithFonts(
      page(
        '<div style="width:600px;margin:0 auto"><div id="a" style="margin:20px;padding:10px;background:#000"><p id="p" style="margin:0">Low Tarn</p></div></div>',
      ),
    );
    expect(d.width).toBe(1280);
    expect(d.items[0]?.box).toEqual({ x: 360, y: 20, width: 560, height: 44 });
    expect(d.items[1]?.box.x).toBeCloseTo(370, 1);
  });

  test('what is painted last lies on top, whatever the order in the file', async () => {
    const box = (id: string, z: string, width: number) =>
      `<div id="${id}" style="position:absolute;width:${width}px;height:90px;background:#000;${z}"></div>`;
    const d = await openWithFonts(
      page(
        box('c', 'z-index:3', 80) +
          box('a', '', 90) +
          box('b', 'z-index:1', 70) +
          '<div id="flow" style="height:9px;background:#111"></div>',
      ),
    );
    expect(ids(d)).toEqual(['flow', 'a', 'b', 'c']);
  });

  test('borders that differ are lines; an even one goes round', async () => {
    const d = await openWithFonts(
      page(
        '<div id="a" style="position:absolute;width:90px;height:30px;border-bottom:2px solid #123456"></div><div id="b" style="position:absolute;top:40px;width:90px;height:30px;border:1px solid #123456;border-radius:4px"></div>',
      ),
    );
    expect(d.items).toMatchObject([
      { box: { x: 0, y: 30, width: 90, height: 2 }, paint: { fill: { colour: '#123456' } } },
      { id: 'b', paint: { stroke: { colour: '#123456', width: 1 }, radius: 4 } },
    ]);
  });

  test('gradients and shadows of CSS are kept', async () => {
    const d = await openWithFonts(
      page(
        '<div id="a" style="width:90px;height:30px;background:linear-gradient(to right,#000,#fff 50%);box-shadow:inset 0 0 1px red,0 2px 4px rgba(0,0,0,.5)"></div>',
      ),
    );
    expect(d.items[0]?.paint).toMatchObject({
      fill: { kind: 'linear', angle: 90, stops: [{ at: 0 }, { at: 0.5 }] },
      shadow: { dx: 0, dy: 2, blur: 4 },
    });
  });

  test('an inline drawing is an icon', async () => {
    const d = await openWithFonts(
      page(
        '<svg id="mark" width="24" height="24" viewBox="0 0 12 12" style="position:absolute;left:30px;top:40px"><path d="M0 0h12v12z"/><circle cx="6" cy="6" r="2" fill="red"/></svg>',
      ),
    );
    expect(d.items).toMatchObject([
      { id: 'mark', kind: 'art', box: { x: 30, y: 40, width: 24, height: 24 } },
    ]);
  });

  test('a window is as wide as a page asks for', async () => {
    const width = async (body: string) => (await openWithFonts(page(body))).width;
    expect(
      await width(
        '<div style="position:absolute;left:0;top:0;width:390px;height:50px;background:red"></div>',
      ),
    ).toBe(390);
    expect(await width('<div style="width:960px;margin:0 auto;height:50px;background:red"></div>')).toBe(
      1280,
    );
    expect(await width('<p>Words</p>')).toBe(1280);
  });
});

describe('the JSON of items', () => {
  const drawing = (...items: object[]) =>
    JSON.stringify({
      format: 'tinfold-drawing',
      version: 1,
      width: 390,
      height: 200,
      background: '#ffffff',
      items,
    });

  test('every kind of item is read', async () => {
    const d = await openWithFonts(
      drawing(
        {
          kind: 'box',
          id: 'card',
          x: 16,
          y: 16,
          width: 358,
          height: 120,
          fill: '#ffffff',
          stroke: { colour: '#ccc', width: 1 },
          radius: 8,
        },
        {
          kind: 'text',
          id: 'title',
          x: 32,
          y: 32,
          width: 200,
          height: 24,
          text: 'Marrow Isle',
          family: 'Inter',
          size: 18,
          weight: 600,
          lineHeight: 24,
        },
        {
          kind: 'text',
          id: 'words',
          x: 32,
          y: 60,
          width: 120,
          text: 'Three crossings a day, the first at 06:40',
          family: 'Inter',
          size: 14,
          lineHeight: 20,
        },
        { kind: 'picture', id: 'sea', x: 300, y: 32, width: 48, height: 48, radius: 'round' },
        {
          kind: 'icon',
          id: 'mark',
          x: 340,
          y: 100,
          width: 24,
          height: 24,
          viewBox: [0, 0, 12, 12],
          paths: [{ d: 'M0 0h12v12z', fill: '#123' }],
        },
      ),
    );
    expect(ids(d)).toEqual(['card', 'title', 'words', 'sea', 'mark']);
    expect(d.background).toEqual({ fill: { kind: 'solid', colour: '#ffffff' } });
    expect(d.items.map((i) => i.kind)).toEqual(['shape', 'text', 'text', 'picture', 'art']);
    expect(d.items[1]?.box).toMatchObject({ x: 32, y: 32, height: 24 });
    expect(d.items[2]).toMatchObject({ lines: { length: 3 } });
    expect(d.items[4]?.box).toEqual({ x: 340, y: 100, width: 24, height: 24 });
  });

  test('words in a font that is missing keep the width that they were drawn with', async () => {
    const d = await openWithFonts(
      drawing({
        kind: 'text',
        id: 't',
        x: 20,
        y: 20,
        width: 130,
        height: 24,
        text: 'Nether Quay',
        family: 'Ferry Sans',
        size: 20,
        lineHeight: 24,
      }),
    );
    const [t] = d.items;
    expect(t?.box.width).toBeCloseTo(130, 1);
    if (t?.kind !== 'text') throw new Error('no text');
    const [run] = t.content.runs;
    if (!run) throw new Error('no run');
    const plain = (await testMeasurer()).width('Nether Quay', { ...run.style, family: 'Inter' });
    expect(run.style.sizeAdjust).toBeCloseTo(130 / plain, 3);
    expect(notes(d).join()).toMatch(
      /“Ferry Sans” is not here: measured with Inter, at [\d.]+ % so that its words are as wide as drawn/,
    );
  });

  test('the schema in the docs is the one that files are checked by', () => {
    const file = new URL('../../../docs/drawing.schema.json', import.meta.url);
    expect(existsSync(file)).toBe(true);
    const written: unknown = JSON.parse(readFileSync(file, 'utf8'));
    expect(written).toEqual(JSON.parse(JSON.stringify(toJsonSchema(DrawingSchema))));
  });
});

const HTML_SEED = page(
  '<div id="a" style="position:absolute;left:20px;top:30px;width:200px;border:1px solid #333"><p class="x">Deck <b>space</b><br>for 18</p></div><table width="300"><tr><td>1<td style="width:20%">2</table><div style="float:left;width:50%"><img src="data:image/gif;base64,R0lGODlhBwAFAAAAACwAAAAABwAFAAACAkQBADs="><input value="x"></div><ul><li>One<li>Two</ul>',
  '.x{margin:1em auto;font:italic 12px/1.5 Inter} @media (max-width:600px){p{color:red}} td{padding:4px}',
);
const JSON_SEED = JSON.stringify({
  format: 'tinfold-drawing',
  version: 1,
  width: 390,
  height: 200,
  items: [
    { kind: 'box', x: 16, y: 16, width: 358, height: 120, fill: '#fff' },
    { kind: 'text', x: 32, y: 32, width: 200, text: 'Marrow Isle', size: 18 },
    {
      kind: 'icon',
      x: 340,
      y: 100,
      width: 24,
      height: 24,
      viewBox: [0, 0, 12, 12],
      paths: [{ d: 'M0 0h12v12z' }],
    },
  ],
});

describe('mutated files end in items with finite boxes or in one sentence', () => {
  const mutation = fc.record({
    at: fc.nat(10_000),
    cut: fc.nat(12),
    put: fc.constantFrom(
      '',
      '1e400',
      '-',
      '"',
      '<',
      '>',
      '</div>',
      'NaN',
      '%',
      ' ',
      '99999999',
      'float:left;',
      'auto',
      '{',
      '}',
      '\u0000',
      'colspan=9 ',
    ),
  });
  test.each([
    ['HTML', HTML_SEED],
    ['JSON', JSON_SEED],
  ])(
    '%s',
    async (_, seed) => {
      await fc.assert(
        fc.asyncProperty(fc.array(mutation, { minLength: 1, maxLength: 4 }), async (mutations) => {
          const mutated = mutations.reduce(
            (s, { at, cut, put }) => s.slice(0, at % s.length) + put + s.slice((at % s.length) + cut),
            seed,
          );
          try {
            const d = await openWithFonts(mutated);
            for (const { box } of d.items) expect(Object.values(box).every(Number.isFinite)).toBe(true);
          } catch (error) {
            expect(error).toBeInstanceOf(DrawingError);
            expect((error as Error).message).toMatch(/^[A-Z].*\.$/s);
          }
        }),
        { numRuns: 1000 },
      );
    },
    60_000,
  );
});
