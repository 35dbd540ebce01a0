import { beforeAll, describe, expect, test } from 'vitest';
import { readStructure } from '@tinfold/core/infer';
import { Engine, itemBoxes, reflow } from '@tinfold/core/layout';
import { checkAll, pathTo, right, standing, walk, type Rect, type Structure } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, outline, partOf, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

const lines = (id: string, x: number, baseline: number, ...texts: string[]) =>
  `<text id="${id}">${texts.map((t, i) => `<tspan x="${x}" y="${baseline + i * 24}">${t}</tspan>`).join('')}</text>`;

describe('a screen drawn wide, where it is narrow', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  const read = (width: number, height: number, body: string): Structure => {
    const structure = readStructure(draw(width, height, body, m), m);
    expect(checkAll(structure)).toEqual([]);
    return structure;
  };
  const at = (structure: Structure, width: number, id: string): Rect => {
    const root = standing(structure, { width });
    const box = itemBoxes(root, reflow(root, width, new Engine(m))).get(id);
    if (!box) throw new Error(`${id} is not shown at ${width}:\n${outline(structure.root)}`);
    return box;
  };
  const parentOf = (structure: Structure, id: string) =>
    pathTo(structure.root, partOf(structure.root, id).id).at(-2);

  test('marks along a line of time stay beside the words that they mark', () => {
    const days = ['The first pier', 'A boat for cars', 'Nine piers'].map((name, i) => {
      const y = 120 + i * 110;
      return (
        rect(`dot${i}`, 40, y, 12, 12, 'rx="6" fill="#0a4f55"') +
        (i < 2 ? rect(`line${i}`, 45, y + 16, 2, 90, 'fill="#9ab"') : '') +
        words(`t${i}`, 64, y + 12, name, 'font-weight="600"') +
        lines(
          `p${i}`,
          64,
          y + 40,
          'What the line carried in that year, and who paid for it, as far as it is known',
          'from the books of the harbour and from what the skippers told those who asked them',
          'and wrote it down in the winter, when no boat went out for weeks.',
        )
      );
    });
    const structure = read(1000, 480, words('h', 40, 80, 'Since 1911', 'font-size="28"') + days.join(''));
    for (const width of [800, 600])
      for (const i of [0, 1, 2])
        expect(at(structure, width, `t${i}`).x, `${i} at ${width}`).toBeGreaterThanOrEqual(
          right(at(structure, width, `dot${i}`)),
        );
  });

  const hero =
    words('h', 112, 190, 'Know the tide', 'font-size="40"') +
    lines(
      'p',
      112,
      240,
      'Times of high and low water for',
      'every pier from Marrow Isle to',
      'Nether Quay, by day and night.',
    ) +
    `<image id="pic" x="644" y="123" width="524" height="393"/>`;

  test('words and a picture stand one above the other, as drawn at the drawn width', () => {
    const structure = read(1280, 600, hero);
    expect(at(structure, 1280, 'pic').x).toBeCloseTo(644, 0);
    const [text, picture] = ['p', 'pic'].map((id) => at(structure, 390, id));
    expect(picture?.y).toBeGreaterThan((text?.y ?? 0) + (text?.height ?? 0));
    expect(picture?.width).toBeGreaterThan(330);
    expect((picture?.width ?? 0) / (picture?.height ?? 1)).toBeCloseTo(524 / 393, 2);
  });

  test('a rail of links stands above the content, which takes its room', () => {
    const links = ['Sailings', 'Fares', 'Piers', 'Crew', 'Fleet']
      .map((t, i) => words(`l${i}`, 32, 120 + i * 40, t))
      .join('');
    const content =
      rect('card', 300, 90, 940, 300) +
      lines(
        'p',
        324,
        130,
        'Every boat that leaves from Marrow Isle today and tomorrow, with',
        'the pier, the deck and the crew.',
      );
    const structure = read(1280, 500, words('top', 32, 50, 'Kittiwake Line') + links + content);
    expect(at(structure, 1280, 'l0').x).toBeCloseTo(32, 0);
    expect(at(structure, 390, 'card').x).toBeLessThan(60);
    expect(at(structure, 390, 'card').y).toBeGreaterThan(at(structure, 390, 'l4').y);
  });

  test('three cards in a row never leave one alone below two', () => {
    const cards = [0, 1, 2]
      .map(
        (i) =>
          rect(`c${i}`, 124 + i * 352, 80, 328, 200) +
          words(`t${i}`, 148 + i * 352, 120, `Fare ${i}`) +
          words(`p${i}`, 148 + i * 352, 160, 'by day'),
      )
      .join('');
    const structure = read(1280, 400, cards);
    const perRow = (width: number) => {
      const ys = ['c0', 'c1', 'c2'].map((id) => Math.round(at(structure, width, id).y));
      return ys.filter((y) => y === ys[0]).length;
    };
    expect([1440, 1280, 1000, 760, 600, 440, 390].map(perRow)).toEqual([3, 3, 3, 3, 3, 1, 1]);
  });

  test('a sheet keeps its wide paddings and steps them down', () => {
    const structure = read(
      1440,
      600,
      rect('sheet', 320, 0, 800, 600) +
        rect('bar', 372, 60, 696, 4, 'fill="#0a4f55"') +
        words('w', 372, 120, 'Fares'),
    );
    const left = (width: number) => at(structure, width, 'bar').x - at(structure, width, 'sheet').x;
    expect([left(1440), left(1000), left(600)]).toEqual([52, 52, 24]);
  });

  test('a bar that ends a little before the content column does stands in that column', () => {
    const bar =
      rect('bar', 0, 0, 1440, 56, 'fill="#0a4f55"') +
      words('name', 160, 34, 'Kittiwake Line') +
      rect('help', 1200, 12, 64, 32) +
      words('t', 1214, 33, 'Help');
    const content = rect('body', 160, 100, 1120, 300) + words('h', 184, 150, 'Departures', 'font-size="24"');
    const structure = read(1440, 440, bar + content);
    expect(at(structure, 1680, 'name').x).toBeCloseTo(280, 0);
    expect(right(at(structure, 1680, 'help'))).toBeCloseTo(1384, 0);
    expect(at(structure, 1680, 'body').x).toBeCloseTo(280, 0);
  });

  test('columns of short words stand beside each other as long as there is room', () => {
    const pair = (id: string, x: number) =>
      words(`${id}h`, x, 80, 'From', 'font-size="24"') +
      lines(`${id}p`, x, 116, 'North ramp, pier 2', 'Marrow Isle', 'open from six');
    const structure = read(1280, 300, pair('a', 80) + pair('b', 1060));
    expect(at(structure, 500, 'bh').y).toBeCloseTo(at(structure, 500, 'ah').y, 0);
    expect(at(structure, 500, 'bp').height).toBeCloseTo(72, 0);
  });

  test('room in a stretched card is a space that fills, as long as another card keeps the height', () => {
    const tall =
      rect('a', 40, 40, 380, 300) + words('a1', 60, 80, 'Tonight') + words('a2', 60, 314, 'Doors at eight');
    const full =
      rect('b', 440, 40, 380, 300) +
      rect('p', 460, 60, 340, 120, 'fill="#9fb8c4"') +
      rect('q', 460, 190, 340, 130, 'fill="#9fb8c4"');
    const structure = read(860, 380, tall + full);
    expect(outline(structure.root)).toMatch(/a1\n *shape\n *text a2/);
    const alone = read(860, 380, tall + rect('c', 440, 40, 380, 300));
    expect(outline(alone.root)).not.toMatch(/a1\n *shape\n/);
  });

  test('columns of words at even steps are a grid, also where their words end early', () => {
    const columns = ['Visit', 'Piers', 'Boats', 'Crew']
      .map(
        (t, i) =>
          words(`h${i}`, 168 + i * 286, 80, t) +
          Array.from({ length: 3 + (i % 2) }, (_, k) =>
            words(`a${i}${k}`, 168 + i * 286, 116 + k * 32, `${t} by day ${k}`),
          ).join(''),
      )
      .join('');
    const structure = read(1440, 300, rect('line', 168, 40, 1104, 1) + columns);
    const grid = [...walk(structure.root)].find((p) => p.rules.flow === 'grid');
    expect(grid?.rules).toMatchObject({ gap: 40, columns: { kind: 'repeat', most: 4 } });
    expect(at(structure, 1440, 'h3').x).toBeCloseTo(168 + 3 * 286, 0);
    expect(at(structure, 600, 'h2').y).toBeGreaterThan(at(structure, 600, 'h1').y);
  });

  test('what is pushed to the foot of cards closes up where each is as high as its content', () => {
    const card = (i: number, x: number, rows: number) =>
      rect(`c${i}`, x, 80, 328, 320) +
      words(`t${i}`, x + 24, 120, 'Day fare') +
      Array.from({ length: rows }, (_, k) => words(`r${i}${k}`, x + 24, 160 + k * 32, `Deck ${k}`)).join('') +
      rect(`b${i}`, x + 24, 332, 280, 44, 'fill="#3f7f75"') +
      words(`bt${i}`, x + 120, 360, 'Book it', 'fill="#fff"');
    const structure = read(1280, 480, card(0, 124, 1) + card(1, 476, 5) + card(2, 828, 3));
    const above = (width: number, i: number, last: string) =>
      at(structure, width, `b${i}`).y - at(structure, width, last).y;
    expect(at(structure, 1280, 'b0').y).toBeCloseTo(332, 0);
    expect(above(1280, 0, 'r00')).toBeGreaterThan(150);
    expect(above(390, 0, 'r00')).toBeCloseTo(above(390, 1, 'r14'), 0);
  });

  test('tiles on one set of tracks are a grid with spans, two columns where it is narrow', () => {
    const tile = (id: string, x: number, y: number, w: number, h: number) =>
      rect(id, 132 + x * 299, 118 + y * 208, w * 299 - 18, h * 208 - 18) +
      words(`t${id}`, 156 + x * 299, 160 + y * 208, `Tile ${id}`);
    const structure = read(
      1440,
      900,
      tile('a', 0, 0, 2, 2) +
        tile('b', 2, 0, 1, 1) +
        tile('c', 3, 0, 1, 1) +
        tile('d', 2, 1, 2, 1) +
        tile('e', 0, 2, 4, 1),
    );
    const grid = parentOf(structure, 'a');
    expect(grid?.rules).toMatchObject({ flow: 'grid', gap: 18, columns: { kind: 'count', count: 4 } });
    expect(['a', 'b', 'd', 'e'].map((id) => partOf(structure.root, id).rules.cell)).toEqual([
      { columnSpan: 2, rowSpan: 2 },
      undefined,
      { columnSpan: 2 },
      { columnSpan: 4 },
    ]);
    expect(at(structure, 768, 'a').width).toBeCloseTo(at(structure, 768, 'e').width, 0);
    expect(at(structure, 390, 'b').x).toBeCloseTo(at(structure, 390, 'c').x, 0);
  });

  test('a centred column narrower than its frame stays in the middle, a tablet’s too', () => {
    const structure = read(
      768,
      300,
      words('h', 48, 80, 'How long will you stay?') +
        rect('card', 48, 110, 672, 76) +
        words('t', 72, 152, 'One night'),
    );
    expect(at(structure, 1120, 'card').x).toBeCloseTo((1120 - 672) / 2, 0);
    expect(at(structure, 480, 'card').width).toBeCloseTo(480 - 2 * 20, 0);
  });

  test('lines of a wrap that end where the next thing would not fit ask for no limit', () => {
    const tags = [
      [20, 0, 118],
      [148, 0, 121],
      [20, 50, 121],
      [151, 50, 96],
    ] as const;
    const body = tags
      .map(
        ([x, y, w], i) =>
          rect(`g${i}`, x, 60 + y, w, 40, 'rx="8" fill="#cfe0dd"') +
          words(`t${i}`, x + 16, 85 + y, 'x'.repeat(Math.round(w / 14))),
      )
      .join('');
    const structure = read(300, 220, body);
    const wrap = [...walk(structure.root)].find((p) => p.rules.flow === 'wrap');
    expect(wrap?.rules.maxWidth).toBeUndefined();
    expect(at(structure, 700, 'g3').y).toBeCloseTo(at(structure, 700, 'g0').y, 0);
  });
});
