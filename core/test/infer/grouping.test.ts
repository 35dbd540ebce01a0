import { beforeAll, describe, expect, test } from 'vitest';
import { readStructure } from '@tinfold/core/infer';
import { checkAll, pathTo, walk, type Part } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, outline, partOf, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

const PORTS = ['Marrow Isle', 'Low Tarn', 'Nether Quay', 'Ellin Skerry', 'Gull Point'];
const icon = (id: string, x: number, y: number, side = 20) =>
  `<circle id="${id}" cx="${x + side / 2}" cy="${y + side / 2}" r="${side / 2}" fill="#3f7f75"/>`;
const picture = (id: string, x: number, y: number, w: number, h: number) =>
  rect(id, x, y, w, h, 'fill="#9fb8c4"');

describe('how things are put together', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });
  const read = (width: number, height: number, body: string): Part => {
    const structure = readStructure(draw(width, height, body, m), m);
    expect(checkAll(structure)).toEqual([]);
    return structure.root;
  };
  const parentOf = (root: Part, id: string): Part => pathTo(root, partOf(root, id).id).at(-2) as Part;
  const itemsIn = (part: Part): string[] => [...walk(part)].flatMap((p) => p.source).sort();

  describe('lines along the edge of a row belong to it', () => {
    const row = (i: number, y: number) =>
      icon(`icon${i}`, 24, y) +
      words(`port${i}`, 60, y + 16, PORTS[i] ?? '') +
      words(`time${i}`, 320, y + 16, `1${i}:20`);

    test('below each row of a list, also where the last has none', () => {
      const body = [0, 1, 2, 3].map(
        (i) => row(i, 30 + i * 60) + (i < 3 ? rect(`line${i}`, 24, 70 + i * 60, 352, 1) : ''),
      );
      const root = read(400, 300, body.join(''));
      expect(itemsIn(parentOf(root, 'line1'))).toEqual(['icon1', 'line1', 'port1', 'time1']);
      expect(partOf(root, 'line1').rules.pin).toMatchObject({ bottom: 0 });
    });

    test('above each row where the first line can belong to nothing else', () => {
      const body = [0, 1, 2].map((i) => rect(`line${i}`, 24, 90 + i * 60, 352, 1) + row(i, 110 + i * 60));
      const root = read(400, 320, words('title', 24, 60, 'Sailings', 'font-size="24"') + body.join(''));
      expect(itemsIn(parentOf(root, 'line1'))).toEqual(['icon1', 'line1', 'port1', 'time1']);
      expect(partOf(root, 'line1').rules.pin).toMatchObject({ top: 0 });
    });

    test('the line of a top bar is the bar’s, not that of what is far below', () => {
      const root = read(
        800,
        400,
        words('name', 24, 40, 'Kittiwake Line') +
          icon('menu', 740, 24) +
          rect('line', 0, 60, 800, 1) +
          words('h', 24, 160, 'Next boat', 'font-size="24"') +
          words('p', 24, 200, 'to Marrow Isle'),
      );
      expect(itemsIn(parentOf(root, 'line'))).toEqual(['line', 'menu', 'name']);
    });

    test('what stands in several lines between two of them is one row', () => {
      const entry = (i: number) => {
        const y = 40 + i * 80;
        return (
          words(`n${i}`, 24, y, String(i + 1)) +
          words(`a${i}`, 60, y, PORTS[i] ?? '') +
          words(`b${i}`, 60, y + 24, 'by the north ramp', 'font-size="14"') +
          words(`c${i}`, 300, y, '38 min') +
          rect(`l${i}`, 24, y + 40, 340, 1)
        );
      };
      const root = read(400, 400, [0, 1, 2, 3].map(entry).join(''));
      expect(itemsIn(parentOf(root, 'l2'))).toEqual(['a2', 'b2', 'c2', 'l2', 'n2']);
    });
  });

  describe('lines in a card', () => {
    const card = (line: string) =>
      rect('card', 40, 40, 400, 220) +
      words('title', 64, 72, 'Tonight') +
      line +
      words('a', 64, 130, 'Marrow Isle') +
      rect('pic', 64, 150, 352, 80, 'fill="#9fb8c4"');

    test('from side to side make bands that touch, each with paddings of its own', () => {
      const root = read(480, 300, card(rect('line', 40, 88, 400, 1, 'fill="#c9d6d3"')));
      const whole = partOf(root, 'card');
      expect(whole.children.map(itemsIn)).toEqual([
        ['line', 'title'],
        ['a', 'pic'],
      ]);
      expect(whole.rules).toMatchObject({ gap: 0, padding: { top: 0, left: 0, right: 0 } });
      expect(partOf(root, 'line').rules.pin).toMatchObject({ bottom: 0 });
    });

    test('make rows of one padding, the last up to the foot of the card', () => {
      const row = (i: number) =>
        icon(`icon${i}`, 64, 56 + i * 53) +
        words(`port${i}`, 100, 72 + i * 53, PORTS[i] ?? '') +
        (i < 2 ? rect(`line${i}`, 40, 92 + i * 53, 400, 1, 'fill="#c9d6d3"') : '');
      const root = read(480, 240, rect('card', 40, 40, 400, 158) + [0, 1, 2].map(row).join(''));
      expect(partOf(root, 'card').rules).toMatchObject({ gap: 0, padding: { top: 0, bottom: 0 } });
      const paddings = [0, 1, 2].map((i) => parentOf(root, `port${i}`).rules.padding);
      expect(paddings.map((p) => p?.top)).toEqual([14, 14, 14]);
      expect(paddings.map((p) => p?.bottom)).toEqual([15, 15, 14]);
    });

    test('short of its sides part what is in it', () => {
      const root = read(480, 300, card(rect('line', 64, 88, 352, 1, 'fill="#c9d6d3"')));
      expect(itemsIn(parentOf(root, 'line'))).not.toEqual(['line', 'title']);
    });
  });

  test('a line as wide as a column and at its end is its edge', () => {
    const body =
      rect('body', 40, 40, 520, 300) +
      rect('line', 620, 60, 240, 2, 'fill="#0a4f55"') +
      words('h', 620, 92, 'On board', 'font-weight="600"') +
      `<text id="p"><tspan x="620" y="122">Hot meals until an hour before</tspan><tspan x="620" y="146">the boat is in, every day.</tspan></text>`;
    const root = read(900, 380, body);
    const aside = parentOf(root, 'h');
    expect(itemsIn(aside)).toEqual(['h', 'line', 'p']);
    expect(partOf(root, 'line').rules.pin).toMatchObject({ left: 0, right: 0, top: 0 });
    expect(aside.children.filter((c) => !c.rules.pin)).toHaveLength(2);
  });

  test('rows reach up to the line before them, so that no gap is left between', () => {
    const row = (i: number) =>
      icon(`icon${i}`, 24, 40 + i * 61) +
      words(`port${i}`, 60, 56 + i * 61, PORTS[i] ?? '') +
      rect(`line${i}`, 24, 80 + i * 61, 352, 1);
    const root = read(400, 320, [0, 1, 2, 3].map(row).join(''));
    const rows = [1, 2, 3].map((i) => parentOf(root, `port${i}`));
    expect(parentOf(root, 'line1').rules.padding).toMatchObject({ top: 18, bottom: 19 });
    expect(rows.every((r) => r.rules.gapBefore === undefined)).toBe(true);
    expect(pathTo(root, partOf(root, 'port2').id).at(-3)?.rules.gap).toBe(0);
  });

  test('a heading further off than the lines below it stands above a list of its own', () => {
    const lines = PORTS.slice(0, 4).map((t, i) => words(`l${i}`, 40, 110 + i * 30, t));
    const root = read(300, 260, words('h', 40, 66, 'Piers', 'font-weight="600"') + lines.join(''));
    expect(itemsIn(parentOf(root, 'l2'))).toEqual(['l0', 'l1', 'l2', 'l3']);
    expect(itemsIn(parentOf(root, 'h'))).toContain('l2');
  });

  test('two pairs of words far apart are two columns', () => {
    const pair = (id: string, x: number) =>
      words(`${id}h`, x, 60, 'From', 'font-size="24"') +
      `<text id="${id}p"><tspan x="${x}" y="96">North ramp</tspan><tspan x="${x}" y="120">Marrow Isle</tspan></text>`;
    const root = read(900, 160, pair('a', 40) + pair('b', 760));
    expect(itemsIn(parentOf(root, 'ah'))).toEqual(['ah', 'ap']);
  });

  test('words that touch after rounding are a row', () => {
    const root = read(400, 90, words('a', 40, 50, 'Ferry') + words('b', 78.6, 50, 'line'));
    expect(parentOf(root, 'a').rules.flow).toBe('row');
  });

  test('the rows of a list have a leading, a filling and a trailing part side by side', () => {
    const entry = (i: number) =>
      icon(`face${i}`, 16, 20 + i * 64, 40) +
      words(`name${i}`, 72, 46 + i * 64, PORTS[i] ?? '') +
      words(`time${i}`, 288, 46 + i * 64, `0${i}:10`) +
      icon(`mark${i}`, 350, 32 + i * 64, 16);
    const root = read(382, 300, [0, 1, 2, 3].map(entry).join(''));
    const list = parentOf(root, 'face2');
    expect(list.children.flatMap((c) => c.source)).toEqual(['face2', 'name2', 'time2', 'mark2']);
    expect(partOf(root, 'name2').rules.width?.kind).toBe('fill');
  });

  test('a mark at the far end of a card stands on the line that it is level with', () => {
    const card = (i: number) =>
      rect(`card${i}`, 24 + i * 200, 24, 184, 120) +
      words(`label${i}`, 40 + i * 200, 58, 'Piers open', 'font-size="14"') +
      icon(`mark${i}`, 176 + i * 200, 46, 16) +
      words(`value${i}`, 40 + i * 200, 96, `${i + 7}`, 'font-size="26"') +
      words(`note${i}`, 40 + i * 200, 126, 'since six', 'font-size="12"');
    const root = read(840, 168, [0, 1, 2, 3].map(card).join(''));
    expect(itemsIn(parentOf(root, 'mark1'))).toEqual(['label1', 'mark1']);
  });

  test('a title above cards is not put into the column of the first', () => {
    const card = (i: number) =>
      rect(`card${i}`, 24 + i * 200, 76, 184, 120) +
      words(`a${i}`, 40 + i * 200, 110, PORTS[i] ?? '') +
      words(`b${i}`, 40 + i * 200, 136, 'Pier 2', 'font-size="14"');
    const root = read(
      840,
      220,
      words('title', 24, 56, 'Sailings', 'font-size="20"') + [0, 1, 2, 3].map(card).join(''),
    );
    expect(itemsIn(parentOf(root, 'card0'))).not.toContain('title');
  });

  test('rows that make alike columns together are cards, whatever their spaces', () => {
    const card = (i: number) =>
      picture(`pic${i}`, 24 + i * 220, 60, 200, 110) +
      words(`t${i}`, 24 + i * 220, 210, PORTS[i] ?? '', 'font-weight="600"') +
      rect(`b${i}`, 24 + i * 220, 240, 120, 40, 'fill="#0a4f55"') +
      words(`w${i}`, 44 + i * 220, 265, 'Choose');
    const root = read(708, 300, words('title', 24, 40, 'Fleet') + [0, 1, 2].map(card).join(''));
    const whole = pathTo(root, partOf(root, 'pic1').id).find((p) => itemsIn(p).join() === 'b1,pic1,t1,w1');
    expect(whole, outline(root)).toBeDefined();
  });

  test('a rail with content that goes on below its end makes two columns', () => {
    const links = ['Boats', 'Piers', 'Crew', 'Fares']
      .map((t, i) => words(`link${i}`, 48, 72 + i * 36, t))
      .join('');
    const body = Array.from({ length: 9 }, (_, i) =>
      rect(`block${i}`, 300, 40 + i * 80, 660, i % 2 ? 44 : 60),
    );
    const root = read(1000, 800, rect('rail', 32, 40, 220, 180) + links + body.join(''));
    const row = pathTo(root, partOf(root, 'rail').id).find((p) => p.rules.flow === 'row');
    expect(itemsIn(row ?? root)).toContain('block8');
  });
});
