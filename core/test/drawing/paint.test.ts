import { describe, expect, test } from 'vitest';
import type { Drawing, Item } from '@tinfold/core/drawing';
import { openWithFonts } from '../support/fonts.js';

const read = (body: string): Promise<Drawing> =>
  openWithFonts(
    `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300" font-family="Inter" font-size="16">${body}</svg>`,
  );
const item = (drawing: Drawing, id: string): Item => {
  const found = drawing.items.find((i) => i.id === id);
  if (!found) throw new Error(`no item ${id} among ${drawing.items.map((i) => i.id).join()}`);
  return found;
};
const STOPS = '<stop stop-color="red"/><stop offset="1" stop-color="blue"/>';

describe('gradients stand where they were drawn', () => {
  test('a radial one in the units of its box', async () => {
    const d = await read(
      `<radialGradient id="g" cx="0.25" cy="0.5" r="0.5">${STOPS}</radialGradient><rect id="a" width="200" height="100" fill="url(#g)"/>`,
    );
    expect(item(d, 'a').paint.fill).toMatchObject({ kind: 'radial', cx: 0.25, cy: 0.5, rx: 0.5, ry: 0.5 });
  });

  test('a radial one in the units of the drawing, moved with its shape', async () => {
    const d = await read(
      `<radialGradient id="g" gradientUnits="userSpaceOnUse" cx="50" cy="50" r="50">${STOPS}</radialGradient><g transform="translate(100 0)"><rect id="a" width="200" height="100" fill="url(#g)"/></g>`,
    );
    expect(item(d, 'a').paint.fill).toMatchObject({ kind: 'radial', cx: 0.25, cy: 0.5, rx: 0.25, ry: 0.5 });
  });

  test('a linear one that ends inside its box has its stops there', async () => {
    const d = await read(
      `<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="50" y1="0" x2="150" y2="0">${STOPS}</linearGradient><rect id="a" width="200" height="100" fill="url(#g)"/>`,
    );
    expect(item(d, 'a').paint.fill).toEqual({
      kind: 'linear',
      angle: 90,
      stops: [
        { at: 0.25, colour: 'red' },
        { at: 0.75, colour: 'blue' },
      ],
    });
  });

  test('stops and ends come from the gradients that one refers to', async () => {
    const d = await read(
      `<linearGradient id="s">${STOPS}</linearGradient><linearGradient id="v" href="#s" x2="0" y2="1"/><linearGradient id="g" href="#v"/><rect id="a" width="90" height="90" fill="url(#g)"/>`,
    );
    expect(item(d, 'a').paint.fill).toMatchObject({ kind: 'linear', angle: 180 });
  });
});

describe('effects take no room', () => {
  test.each<[string, string, object]>([
    [
      'a drop shadow',
      '<filter id="f"><feDropShadow dx="1" dy="4" stdDeviation="3" flood-color="#000" flood-opacity="0.5"/></filter>',
      { shadow: { dx: 1, dy: 4, blur: 6, colour: 'rgba(0, 0, 0, 0.5)' } },
    ],
    [
      'a shadow as a chain of primitives',
      '<filter id="f"><feOffset dy="2"/><feGaussianBlur stdDeviation="4"/><feColorMatrix values="0 0 0 0 0.2 0 0 0 0 0.4 0 0 0 0 0.6 0 0 0 0.25 0"/><feBlend/></filter>',
      { shadow: { dx: 0, dy: 2, blur: 8, colour: 'rgba(51, 102, 153, 0.25)' } },
    ],
    ['a blur', '<filter id="f"><feGaussianBlur stdDeviation="5"/></filter>', { blur: 5 }],
  ])('%s', async (_, filter, paint) => {
    const d = await read(
      `${filter}<rect id="a" x="20" y="20" width="90" height="40" fill="#fff" filter="url(#f)"/>`,
    );
    expect(item(d, 'a').box).toEqual({ x: 20, y: 20, width: 90, height: 40 });
    expect(item(d, 'a').paint).toMatchObject(paint);
  });

  test('blends and CSS filters are kept', async () => {
    const d = await read(
      '<g style="mix-blend-mode:multiply"><rect id="a" width="9" height="9" fill="red" style="filter:drop-shadow(1px 2px 3px #00000080)"/></g>',
    );
    expect(item(d, 'a').paint).toMatchObject({ blend: 'multiply', shadow: { dx: 1, dy: 2, blur: 3 } });
  });
});

const PIXEL =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAIAAAACCAIAAAD91JpzAAAAFklEQVR4nGPwiVrhE7WCwcpjmpXHNAAhrATNzWTrGQAAAABJRU5ErkJggg==';

describe('pictures', () => {
  const picture = (d: Drawing, id: string) => {
    const found = item(d, id);
    if (found.kind !== 'picture') throw new Error(`${id} is a ${found.kind}`);
    return found;
  };

  test('a mask crops its picture and gives it its corners', async () => {
    const d = await read(
      `<mask id="m"><g transform="translate(10 10)"><rect width="60" height="40" rx="8" fill="#fff"/></g></mask><image id="a" width="200" height="200" href="${PIXEL}" mask="url(#m)"/>`,
    );
    expect(picture(d, 'a').box).toEqual({ x: 10, y: 10, width: 60, height: 40 });
    expect(picture(d, 'a').paint.radius).toBe(8);
  });

  test('a mask on a group is the edge of what it holds', async () => {
    const d = await read(
      '<mask id="m"><circle cx="50" cy="50" r="30"/></mask><g mask="url(#m)"><rect id="a" width="100" height="100" fill="red"/><rect id="b" x="200" width="20" height="20" fill="red"/></g>',
    );
    expect(item(d, 'a').box).toEqual({ x: 20, y: 20, width: 60, height: 60 });
    expect(d.notes).toContainEqual(expect.objectContaining({ cleanUp: 'off the frame', items: ['b'] }));
  });

  const jpeg = (width: number, height: number): string => {
    const bytes = [255, 216, 255, 224, 0, 16, 74, 70, 73, 70, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0];
    const frame = [255, 192, 0, 17, 8, height >> 8, height & 255, width >> 8, width & 255, 3];
    return `data:image/jpeg;base64,${Buffer.from([...bytes, ...frame, ...new Array<number>(40).fill(0)]).toString('base64')}`;
  };

  test.each<[string, string, { width: number; height: number }]>([
    ['PNG', PIXEL, { width: 2, height: 2 }],
    ['JPEG', jpeg(640, 480), { width: 640, height: 480 }],
    [
      'WebP',
      'data:image/webp;base64,UklGRiIAAABXRUJQVlA4IBYAAAAwAQCdASoBAAEADsD+JaQAA3AAAAAA',
      { width: 1, height: 1 },
    ],
    ['GIF', 'data:image/gif;base64,R0lGODlhBwAFAAAAACwAAAAABwAFAAACAkQBADs=', { width: 7, height: 5 }],
    [
      'SVG',
      `data:image/svg+xml,${encodeURIComponent('<svg xmlns="http://www.w3.org/2000/svg" width="30" height="20"><rect width="30" height="20"/></svg>')}`,
      { width: 30, height: 20 },
    ],
  ])('a %s is kept with its natural size', async (_, href, natural) => {
    const d = await read(`<image id="a" width="90" height="90" href="${href}"/>`);
    expect(picture(d, 'a').content).toMatchObject({ natural });
  });

  test('an SVG picture loses what could run or load', async () => {
    const source =
      '<svg xmlns="http://www.w3.org/2000/svg" onload="x()"><script>x()</script><style>@import url(//x)</style><rect id="r" onclick="x()" width="9" height="9" fill="url(#g)"/><image href="https://x.example/a.png"/><use href="#r"/></svg>';
    const d = await read(
      `<image id="a" width="90" height="90" href="data:image/svg+xml;base64,${Buffer.from(source).toString('base64')}"/>`,
    );
    const { href = '' } = picture(d, 'a').content;
    const inside = Buffer.from(href.slice(href.indexOf(',') + 1), 'base64').toString();
    expect(inside).toContain('<rect');
    expect(inside).toContain('href="#r"');
    expect(inside).not.toMatch(/script|onload|onclick|@import|https:/);
  });

  test('what is no picture is a placeholder and is told', async () => {
    const d = await read('<image id="a" width="90" height="90" href="https://x.example/a.png"/>');
    expect(picture(d, 'a').content.href).toBeUndefined();
    expect(d.notes).toContainEqual(expect.objectContaining({ kind: 'not understood', items: ['a'] }));
  });
});

describe('markers', () => {
  const ARROW =
    '<marker id="m" viewBox="0 0 10 10" refX="10" refY="5" markerWidth="10" markerHeight="10" markerUnits="userSpaceOnUse" orient="auto"><path d="M0 0L10 5L0 10z" fill="red"/></marker>';

  test('count for the bounds of their line and are one item with it', async () => {
    const d = await read(
      `${ARROW}<path id="a" d="M20 50H120" stroke="red" stroke-width="2" fill="none" marker-end="url(#m)"/>`,
    );
    expect(d.items.map((i) => i.id)).toEqual(['a-2']);
    const { box } = item(d, 'a-2');
    expect(box.y).toBeCloseTo(45, 3);
    expect(box.height).toBeCloseTo(10, 3);
  });

  test('turn with the line and grow with its stroke', async () => {
    const d = await read(
      `<marker id="m" refX="0" refY="1" markerWidth="2" markerHeight="2" orient="auto"><rect width="2" height="2" fill="red"/></marker><path id="a" d="M50 20V80" stroke="red" stroke-width="4" fill="none" marker-end="url(#m)"/>`,
    );
    const [only] = d.items;
    // Two stroke widths long and wide, downwards from the end of the line.
    expect(only?.box.x).toBeCloseTo(46, 3);
    expect(only?.box.width).toBeCloseTo(8, 3);
    expect((only?.box.y ?? 0) + (only?.box.height ?? 0)).toBeCloseTo(88, 3);
  });

  test('a marker that uses itself ends', async () => {
    const d = await read(
      '<marker id="m"><path d="M0 0h9v9" stroke="red" marker-end="url(#m)"/></marker><path id="a" d="M20 50H120" stroke="red" marker-end="url(#m)"/>',
    );
    expect(d.items.length).toBeGreaterThan(0);
  });
});

describe('turned items', () => {
  test('words at an angle keep their angle and their outer box', async () => {
    const d = await read('<text id="a" transform="translate(100 200) rotate(-90)">Marrow Isle</text>');
    const found = item(d, 'a');
    expect(found).toMatchObject({ kind: 'art', angle: -90, content: { kind: 'turned', angle: -90 } });
    expect(found.box.height).toBeGreaterThan(found.box.width * 3);
    expect(found.box.y + found.box.height).toBeCloseTo(200, 0);
  });

  test('a turned box tells its angle', async () => {
    const d = await read(
      '<rect id="a" x="50" y="50" width="40" height="10" fill="red" transform="rotate(30 70 55)"/>',
    );
    expect(item(d, 'a').angle).toBe(30);
  });
});

describe('selectors of style blocks', () => {
  test.each([
    ['descendants', 'g .c{fill:#112233}'],
    ['children', 'g > rect{fill:#112233}'],
    ['attributes', '[data-role="bar"]{fill:#112233}'],
    ['siblings', 'circle + rect{fill:#112233}'],
    ['places among siblings', 'rect:nth-child(2){fill:#112233}'],
    ['the stronger of two', '#box{fill:#112233} .c{fill:red} rect{fill:blue}'],
    ['what is important', '.c{fill:#112233!important} #box{fill:red}'],
    ['a media query that holds', '@media screen{.c{fill:#112233}} @media print{.c{fill:red}}'],
  ])('%s', async (_, css) => {
    const d = await read(
      `<style>${css}</style><g><circle id="dot" cx="5" cy="5" r="4"/><rect id="box" class="c" data-role="bar" x="20" width="40" height="40"/></g>`,
    );
    expect(item(d, 'box').paint.fill).toEqual({ kind: 'solid', colour: '#112233' });
  });
});
