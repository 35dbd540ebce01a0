import { describe, expect, test } from 'vitest';
import { DrawingError, measureDrawing, openDrawing, readSvg, type Drawing } from '@tinfold/core/drawing';
import { exportHtml } from '@tinfold/core/handoff';
import { readStructure } from '@tinfold/core/infer';
import { openWithFonts, testMeasurer } from '../support/fonts.js';

const svg = (body: string, head = '') =>
  `${head}<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300">${body}</svg>`;
const many = (n: number, part: string) => part.repeat(n);

/** A case may take this long before it counts as hanging, ms. */
const HANGS = 30_000;

describe('hostile and broken files end in items or in one sentence', () => {
  test.each<[string, string]>([
    [
      'an entity bomb',
      svg(
        '<text>&c;</text>',
        '<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;">]>',
      ),
    ],
    [
      'an external entity',
      svg('<text>&x;</text>', '<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>'),
    ],
    ['an undeclared entity', svg('<text>&nope;</text>')],
    ['200,000 nodes', svg(many(200_000, '<g/>'))],
    ['nesting of 16,000', svg(many(16_000, '<g>') + many(16_000, '</g>'))],
    ['a cut-off file', svg('<g><rect width="9" height="9"/>').slice(0, -20)],
    ['a wrong encoding', `\uFFFD\uFFFDPNG\u0000\u0001${svg('')}`],
    ['a PNG named .svg', '\u0089PNG\r\n\u001a\n\u0000\u0000\u0000\rIHDR'],
    ['a zero byte', svg('<text>a\u0000b</text>')],
  ])(
    '%s is refused',
    (_, source) => {
      expect(() => readSvg(source, 'x')).toThrow(DrawingError);
    },
    HANGS,
  );

  test.each<[string, string]>([
    [
      'numbers like 1e400',
      '<rect width="1e400" height="9"/><rect x="-1e400" width="9" height="9"/><path d="M0 0L1e400 5"/><circle r="1e309"/>',
    ],
    [
      'not-numbers',
      '<rect width="NaN" height="9"/><rect width="Infinity" height="9"/><g transform="translate(NaN)"><rect width="9" height="9"/></g><g transform="scale(0)"><rect width="9" height="9"/></g>',
    ],
    ['uses in a circle', '<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>'],
    [
      'uses that multiply',
      `<g id="u0"><rect width="9" height="9"/></g>${Array.from({ length: 30 }, (_, i) => `<g id="u${i + 1}"><use href="#u${i}"/><use href="#u${i}"/></g>`).join('')}`,
    ],
    [
      'a clip of itself',
      '<clipPath id="c" clip-path="url(#c)"><rect clip-path="url(#c)" width="9" height="9"/></clipPath><rect clip-path="url(#c)" width="50" height="50"/>',
    ],
    [
      'a gradient of itself',
      '<linearGradient id="g" href="#g"/><rect width="50" height="50" fill="url(#g)"/>',
    ],
    [
      'a pattern of itself',
      '<pattern id="p"><use href="#q"/></pattern><g id="q"><rect width="9" height="9" fill="url(#p)"/></g><rect width="50" height="50" fill="url(#p)"/>',
    ],
    [
      'a broken style block',
      '<style>@import url(//x); .a{fill:red} }}} {{{ /* </style><rect class="a" width="9" height="9"/>',
    ],
    ['a very long path', `<path d="M0 0${many(60_000, 'l1 1')}" stroke="red"/>`],
    ['a very long word', `<text y="20" font-family="Inter">${many(20_000, 'a')}</text>`],
  ])(
    '%s is read with finite boxes',
    async (_, body) => {
      const m = await testMeasurer();
      const drawing = measureDrawing(readSvg(svg(body), 'x'), m);
      for (const { box } of drawing.items) expect(Object.values(box).every(Number.isFinite)).toBe(true);
      expect(readStructure(drawing, m).root.id).toBe('p1');
    },
    HANGS,
  );

  const page = (body: string, css = '') =>
    `<!doctype html><html><head><style>${css}</style></head><body>${body}</body></html>`;
  const numbered = (n: number, part: (i: number) => string) =>
    Array.from({ length: n }, (_, i) => part(i)).join('');

  test.each<[string, string]>([
    ['a page of 100,000 elements', page(many(100_000, '<i></i>'))],
    ['a page nested 3,000 deep', page(many(3_000, '<div>'))],
    ['JSON nested 100,000 deep', `{"a":${many(100_000, '[')}${many(100_000, ']')}}`],
    [
      'JSON with numbers like 1e400',
      '{"format":"tinfold-drawing","version":1,"width":1e400,"height":9,"items":[]}',
    ],
    ['cut-off JSON', '{"format":"tinfold-drawing","version":1,"width":9'],
  ])(
    '%s is refused',
    (_, source) => {
      expect(() => openDrawing(source, 'x')).toThrow(DrawingError);
    },
    HANGS,
  );

  test.each<[string, string]>([
    [
      '15,000 boxes',
      page(
        numbered(
          15_000,
          (i) =>
            `<div style="position:absolute;left:${i}px;top:9px;width:9px;height:9px;background:red"></div>`,
        ),
      ),
    ],
    [
      'a style block of 20,000 rules that look at everything',
      page(
        numbered(2_000, (i) => `<p class="a${i}" style="position:absolute">x</p>`),
        numbered(20_000, (i) => `* * * .a${i}{color:red}`),
      ),
    ],
    [
      'numbers like 1e400',
      page(
        '<div style="position:absolute;left:1e400px;top:-1e400px;width:1e400px;height:9px;background:red"></div><p style="margin:1e309px;font-size:1e309px">x</p>',
      ),
    ],
    [
      'a table that spans for ever',
      page('<table><tr><td colspan="1000000000" rowspan="1000000000">x</td></tr></table>'),
    ],
    [
      'broken markup',
      page('<table><div><p></table></p><a href="javascript:alert(1)" onclick="x()"><svg><script>x</svg>'),
    ],
    ['a long run of words', page(`<p style="width:600px">${many(20_000, 'pier ')}</p>`)],
  ])(
    'a page with %s is read with finite boxes, or refused in one sentence',
    async (_, source) => {
      const read = await openWithFonts(source).catch((error: unknown) => error);
      if (read instanceof Error) {
        expect(read).toBeInstanceOf(DrawingError);
        expect(read.message).toMatch(/^[A-Z].*\.$/s);
        return;
      }
      for (const { box } of (read as Drawing).items)
        expect(Object.values(box).every(Number.isFinite)).toBe(true);
    },
    HANGS,
  );

  test('nothing that could run or load leaves the program', async () => {
    const m = await testMeasurer();
    const body = `<script>alert(1)</script><rect id="r" onclick="alert(1)" width="50" height="50" fill="url(javascript:alert(1))" style="fill:red;background:url(//x)"/><a href="javascript:alert(1)"><text y="90" font-family="Inter">Go</text></a><image width="9" height="9" href="javascript:alert(1)"/><image x="20" width="9" height="9" href="data:image/svg+xml,&lt;svg onload='alert(1)'/&gt;"/><rect x="100" width="30" height="30" fill="red;} body{background:url(//x)"/><foreignObject><iframe src="//x"/></foreignObject>`;
    const files = exportHtml(
      readStructure(measureDrawing(readSvg(svg(body), '<img src=x onerror=alert(1)>'), m), m),
    );
    const all = files.map((f) => f.text).join('\n');
    expect(all).not.toMatch(/<script|javascript:|<iframe|url\(|onload=|onclick=|<img src=x/i);
  });
});
