import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { NO_DECISIONS, openDrawing, type Drawing } from '@tinfold/core/drawing';
import { alignDrawings, readSeveral } from '@tinfold/core/infer';
import { matchItems } from '../../src/infer/match.js';
import { Engine, itemBoxes, reflow } from '@tinfold/core/layout';
import {
  breakpoints,
  checkAll,
  pathTo,
  standing,
  walk,
  type Part,
  type Rect,
  type Structure,
} from '@tinfold/core/model';
import type { ShapedMeasurer, TextMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../../../host/src/fonts.js';
import {
  expectOfMost,
  MINUTES,
  everyPage,
  pageCases,
  patternCases,
  type BenchmarkCase,
} from '../support/benchmark.js';
import { style } from '../support/build.js';
import { outline, partOf, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

const DEMO = new URL('../../../demo/', import.meta.url);

interface Opened {
  readonly drawings: readonly Drawing[];
  readonly m: TextMeasurer;
}

async function open(...sources: readonly string[]): Promise<Opened> {
  const opened = sources.map((source) => openDrawing(source, 'Screen'));
  const m = await loadMeasurer(opened.flatMap((o) => o.faces()));
  return { drawings: opened.map((o) => o.measure(m, NO_DECISIONS)), m };
}

const svg = (width: number, height: number, ...items: readonly string[]): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" font-family="Inter" font-size="16">${items.join('')}</svg>`;

async function readAll(...sources: readonly string[]) {
  const { drawings, m } = await open(...sources);
  const aligned = alignDrawings(drawings).map((a) => a.drawing);
  return { structure: readSeveral(aligned, m), drawings: aligned, m };
}

function boxesAt(structure: Structure, width: number, m: TextMeasurer): ReadonlyMap<string, Rect> {
  const root = standing(structure, { width });
  return itemBoxes(root, reflow(root, width, new Engine(m)));
}

/** Every item of every drawing stands where it was drawn, within what the structure reports; nothing else is shown. */
function expectFaithful({ structure, drawings, m }: Awaited<ReturnType<typeof readAll>>, most = 2.5): void {
  for (const { width, items } of drawings) {
    const boxes = boxesAt(structure, width, m);
    const shown = new Set([...boxes.keys()].filter((id) => !structure.root.source.includes(id)));
    for (const item of items) {
      const box = boxes.get(item.id);
      const off = box
        ? Math.max(
            Math.abs(box.x - item.box.x),
            Math.abs(box.y - item.box.y),
            Math.abs(box.x + box.width - item.box.x - item.box.width),
            Math.abs(box.y + box.height - item.box.y - item.box.height),
          )
        : Infinity;
      expect(off, `${item.id} at ${width}\n${outline(structure.root)}`).toBeLessThanOrEqual(
        Math.max(0.5, Math.min(most, structure.snap)),
      );
      shown.delete(item.id);
    }
    expect([...shown], `shown at ${width} and not drawn there`).toEqual([]);
  }
  expect(checkAll(structure)).toEqual([]);
}

/** Buttons that are as wide as their words. */
const buttons = (m: ShapedMeasurer, look: string) => {
  const wide = (text: string) => m.width(text, style()) + 48;
  const button = (id: string, text: string, x: number, y: number) =>
    rect(`${id}r`, x, y, wide(text), 44, look) + words(`${id}t`, x + 24, y + 28, text);
  return { wide, button };
};

describe('the same things in two drawings are found without common ids', () => {
  test('in the demo’s board at 1280 and 390', async () => {
    const { drawings } = await open(
      readFileSync(new URL('departures-1280.svg', DEMO), 'utf8'),
      readFileSync(new URL('departures-390.svg', DEMO), 'utf8'),
    );
    const [wide, narrow] = drawings as [Drawing, Drawing];
    const pairs = matchItems(wide, narrow);
    for (const [a, b] of pairs) expect(b).toBe(`m ${a}`);
    const common = wide.items.filter((i) => narrow.items.some((n) => n.id === `m ${i.id}`));
    expect(pairs.size).toBe(common.length);
    expect(pairs.has('Link Fares')).toBe(false);
  });

  const pairsOf = async (cases: readonly BenchmarkCase[]) => {
    let [common, right, wrong] = [0, 0, 0];
    for (const { files } of cases) {
      const { drawings } = await open(...files.map((f) => readFileSync(f, 'utf8')));
      const [a, b] = drawings as [Drawing, Drawing];
      const pairs = matchItems(a, b);
      const ids = new Set(b.items.map((i) => i.id));
      common += a.items.filter((i) => ids.has(i.id)).length;
      right += [...pairs].filter(([x, y]) => x === y).length;
      wrong += [...pairs].filter(([x, y]) => x !== y).length;
    }
    return { right: right / common, wrong: wrong / common };
  };

  test.runIf(patternCases.length > 0)(
    'in the benchmark’s pairs',
    async () => {
      const patterns = await pairsOf(patternCases);
      expect(patterns.right).toBeGreaterThan(0.97);
      expect(patterns.wrong).toBeLessThan(0.03);
      const pages = await pairsOf(pageCases);
      expect(pages.right).toBeGreaterThan(0.9);
      expect(pages.wrong).toBeLessThan(0.1);
    },
    MINUTES,
  );
});

describe('two drawings of one screen become one structure', () => {
  test('the demo’s board: it turns, hides, replaces and steps', async () => {
    const read = await readAll(
      readFileSync(new URL('departures-1280.svg', DEMO), 'utf8'),
      readFileSync(new URL('departures-390.svg', DEMO), 'utf8'),
    );
    expectFaithful(read);
    const { structure } = read;
    const at = (width: number, item: string): Part => partOf(standing(structure, { width }), item);
    expect([at(1280, 'Lead box').rules.flow, at(390, 'Lead box').rules.flow]).toEqual(['row', 'column']);
    expect([at(1280, 'm Menu@390').rules.hidden, at(390, 'm Menu@390').rules.hidden]).toEqual([
      true,
      undefined,
    ]);
    expect([
      boxesAt(structure, 1280, read.m).has('Link Help'),
      boxesAt(structure, 390, read.m).has('Link Help'),
    ]).toEqual([true, false]);
    const size = (width: number) => {
      const { content } = at(width, 'Lead title');
      return content?.kind === 'text' ? content.runs[0]?.style.size : undefined;
    };
    expect([size(1280), size(390)]).toEqual([40, 32]);
    // One breakpoint says it all, and the cards need none: their columns repeat.
    expect(breakpoints(structure)).toHaveLength(1);
    expect(at(390, 'Card 1 box').rules.width).toEqual({ kind: 'fill', weight: 1 });
  });

  /** Both drawings, 1000 and 390 wide, and as high as told. */
  const pair = (
    wide: readonly string[],
    narrow: readonly string[],
    low: readonly [number, number] = [300, 600],
  ) =>
    readAll(
      svg(1000, low[0], rect('a0', 0, 0, 1000, low[0], 'fill="#fff"'), ...wide),
      svg(390, low[1], rect('b0', 0, 0, 390, low[1], 'fill="#fff"'), ...narrow),
    );

  test('a row of a panel and a list turns to a column', async () => {
    const list = (id: string, x: number, y: number) =>
      rect(`${id}box`, x, y, id.startsWith('w') ? 600 : 350, 120, 'fill="#e3ecea"') +
      words(`${id}t`, x + 20, y + 40, 'Sailings of today') +
      words(`${id}u`, x + 20, y + 70, 'Marrow Isle, 14:20');
    const panel = (id: string, x: number, y: number, w: number) =>
      rect(`${id}p`, x, y, w, 120, 'fill="#f4e6cf"') + words(`${id}v`, x + 20, y + 40, 'Pier 1 is closed');
    const read = await pair(
      [panel('w', 20, 40, 320), list('wl', 380, 40)],
      [panel('n', 20, 40, 350), list('nl', 20, 200)],
    );
    expectFaithful(read);
    const row = (width: number) =>
      [...walk(standing(read.structure, { width }))].find(
        (p) => p.children.length === 2 && p.children.every((c) => c.paint),
      );
    expect([row(1000)?.rules.flow, row(390)?.rules.flow]).toEqual(['row', 'column']);
  });

  test('what stays side by side on a tablet is still guessed to turn on a phone', async () => {
    const screen = (id: string, width: number) => {
      const half = (width - 72) / 2;
      const column = (k: string, x: number, text: string, fill: string) =>
        rect(`${id}${k}`, x, 40, half, 300, `fill="${fill}"`) +
        words(`${id}${k}t`, x + 20, 90, text) +
        rect(`${id}${k}p`, x + 20, 120, half - 40, 180, 'fill="#9fb8c4"');
      return svg(
        width,
        400,
        rect(`${id}0`, 0, 0, width, 400, 'fill="#fff"'),
        column('a', 24, 'Sailings of today', '#e3ecea') + column('b', 48 + half, 'The fleet', '#f4e6cf'),
      );
    };
    const read = await readAll(screen('w', 1280), screen('n', 768));
    expectFaithful(read);
    const tops = (width: number) => {
      const boxes = boxesAt(read.structure, width, read.m);
      return [boxes.get('wa')?.y, boxes.get('wb')?.y];
    };
    expect(tops(768)[0]).toBe(tops(768)[1]);
    expect(tops(480)[1]).toBeGreaterThan(tops(480)[0] ?? 0);
  });

  test('cards that a tablet’s drawing alone shows side by side stand one above another on a phone', async () => {
    const card = (id: string, x: number, y: number, w: number) =>
      rect(id, x, y, w, 180, 'fill="#e3ecea"') +
      words(`${id}t`, x + 20, y + 40, `Boat ${id}`) +
      rect(`${id}p`, x + 20, y + 60, w - 40, 100, 'fill="#9fb8c4"');
    const wide = card('a', 40, 40, 280) + card('b', 40, 244, 280) + rect('body', 344, 40, 896, 384);
    const narrow = card('a', 24, 40, 348) + card('b', 396, 40, 348) + rect('body', 24, 244, 720, 384);
    const read = await readAll(svg(1280, 460, wide), svg(768, 660, narrow));
    expectFaithful(read);
    const beside = (width: number) => {
      const boxes = boxesAt(read.structure, width, read.m);
      return boxes.get('a')?.y === boxes.get('b')?.y;
    };
    expect([768, 680, 600, 390].map(beside)).toEqual([true, true, false, false]);
  });

  describe('what stands otherwise in a narrower drawing', () => {
    const LINKS = ['Sailings', 'Fares', 'Piers', 'Crew', 'Notices'];
    const hung = (structure: Structure): string[] =>
      [...walk(structure.root)]
        .filter((p) => !p.rules.pin && p.below?.some((o) => o.rules.pin ?? o.rules.flow === 'free'))
        .map((p) => p.name);

    test('a list becomes lines of links, each in the room that the marked one shows', async () => {
      const m = await testMeasurer();
      const wide = (t: string) => m.width(t, style());
      const rail = LINKS.map((t, i) => {
        const y = 72 + i * 46;
        return (i === 1 ? rect('mark', 16, y, 208, 42, 'fill="#fff"') : '') + words(`l${i}`, 28, y + 27, t);
      }).join('');
      let [x, y] = [16, 56];
      const strip = LINKS.map((t, i) => {
        const width = wide(t) + 24;
        if (x + width > 374) [x, y] = [16, y + 46];
        const at = x;
        x += width + 4;
        return (
          (i === 1 ? rect('mark', at, y, width, 42, 'fill="#fff"') : '') + words(`l${i}`, at + 12, y + 27, t)
        );
      }).join('');
      const page = (left: number, top: number, width: number) =>
        rect('card', left, top, width, 300, 'fill="#e3ecea"') +
        words('c0', left + 24, top + 40, 'Departures') +
        words('c1', left + 24, top + 80, 'Low Tarn');
      const name = (at: number) => words('n', 28, at, 'Kittiwake', 'font-size="20"');
      const read = await readAll(
        svg(1280, 800, rect('rail', 0, 0, 240, 800, 'fill="#dfe8e6"'), name(44), rail, page(272, 32, 976)),
        svg(
          390,
          520,
          rect('rail', 0, 0, 390, y + 54, 'fill="#dfe8e6"'),
          name(36),
          strip,
          page(16, y + 78, 358),
        ),
      );
      expectFaithful(read);
      expect(hung(read.structure)).toEqual([]);
      const path = pathTo(read.structure.root, partOf(read.structure.root, 'l0').id);
      const list = path.find((p) => p.children.some((c) => c.source.includes('mark')));
      expect(list?.rules.flow).toBe('column');
      expect(standing(read.structure, { width: 390 })).toSatisfy((root: Part) =>
        [...walk(root)].some((p) => p.id === list?.id && p.rules.flow === 'wrap'),
      );
    });

    test('a face drawn up over a cover stays so where its row becomes a column', async () => {
      const page = (width: number, at: number, [face, title, line]: readonly [number, number, number]) =>
        svg(
          width,
          520,
          rect('cover', 16, 24, width - 32, 180, 'fill="#9fbcc0"') +
            rect('face', at, face, 96, 96, 'fill="#37505c"') +
            words('name', width > 600 ? at + 116 : at, title, 'Ellin Jortun', 'font-size="24"') +
            words('role', width > 600 ? at + 116 : at, line, 'Crew of the Marrow Isle') +
            rect('notes', 16, 360, width - 32, 120, 'fill="#e3ecea"') +
            words('note', 40, 400, 'Left pier 2 at 14:20'),
        );
      const read = await readAll(page(960, 40, [156, 224, 248]), page(390, 40, [156, 280, 304]));
      expectFaithful(read);
      expect(hung(read.structure)).toEqual([]);
      const face = partOf(read.structure.root, 'face');
      const path = pathTo(read.structure.root, face.id);
      expect(path.some((p) => p.rules.pin)).toBe(false);
      const row = path.findLast((p) => p.children.length > 1);
      expect(row?.rules.flow).toBe('row');
      const narrow = standing(read.structure, { width: 390 });
      expect(pathTo(narrow, row?.id ?? '').at(-1)?.rules.flow).toBe('column');
    });

    test('links that go below the name in a bar are grouped as they stand there', async () => {
      const m = await testMeasurer();
      const links = (from: number, baseline: number) => {
        let x = from;
        return LINKS.map((t, i) => {
          const at = x;
          x += m.width(t, style()) + 20;
          return words(`l${i}`, at, baseline, t);
        }).join('');
      };
      const name = (at: number) => words('n', 20, at, 'Kittiwake', 'font-size="20" font-weight="600"');
      const card = (top: number, width: number) =>
        rect('card', 20, top, width, 200, 'fill="#e3ecea"') + words('c', 44, top + 40, 'Departures');
      const from = 20 + m.width('Kittiwake', { ...style(20), weight: 600 }) + 20;
      const read = await readAll(
        svg(
          1280,
          320,
          rect('bar', 0, 0, 1280, 64, 'fill="#dfe8e6"'),
          name(40),
          links(from, 38),
          card(96, 1240),
        ),
        svg(390, 360, rect('bar', 0, 0, 390, 96, 'fill="#dfe8e6"'), name(34), links(20, 70), card(128, 350)),
      );
      expectFaithful(read);
      expect(hung(read.structure)).toEqual([]);
    });

    test('a menu button that only the phone has stands in its bar, and the page stays in the flow', async () => {
      const card = (top: number, width: number) =>
        rect('card', 20, top, width, 200, 'fill="#e3ecea"') + words('c', 44, top + 40, 'Departures');
      const name = words('n', 36, 40, 'Kittiwake', 'font-size="20"');
      const read = await readAll(
        svg(
          1280,
          320,
          name,
          LINKS.map((t, i) => words(`l${i}`, 760 + i * 96, 38, t)).join(''),
          card(96, 1240),
        ),
        svg(390, 320, name, rect('menu', 338, 24, 20, 14, 'fill="#0a4f55"'), card(96, 350)),
      );
      expectFaithful(read);
      expect(hung(read.structure)).toEqual([]);
      const [, bar] = pathTo(read.structure.root, partOf(read.structure.root, 'n').id);
      expect([...walk(bar as Part)].flatMap((p) => p.source)).toContain('menu@390');
    });
  });

  test('a mark that was a bar’s and is no more does not make all else up anew', async () => {
    const links = ['Sailings', 'Fares', 'Piers', 'Crew'];
    const content = (x: number, y: number, width: number) =>
      rect('card', x, y, width, 200) +
      words('t', x + 24, y + 40, 'Departures') +
      words('u', x + 24, y + 80, 'Low Tarn');
    const wide =
      rect('bar', 0, 0, 1280, 56, 'fill="#0a4f55"') +
      links.map((t, i) => words(`l${i}`, 40 + i * 120, 34, t, 'fill="#fff"')).join('') +
      rect('under', 40, 44, 20, 2, 'fill="#f4c95d"') +
      content(40, 96, 1200);
    const narrow =
      rect('mark', 346, 24, 20, 2, 'fill="#f4c95d"') +
      words('name', 24, 30, 'Kittiwake Line') +
      content(24, 72, 342);
    const read = await readAll(svg(1280, 340, wide), svg(390, 300, narrow));
    expectFaithful(read);
    expect(partOf(read.structure.root, 'bar').rules.pin).toBeUndefined();
    // What stands on one line in the narrower drawing alone is a bar of its own.
    const { id } = partOf(standing(read.structure, { width: 390 }), 'name@390');
    expect(pathTo(read.structure.root, id).at(-2)?.rules.flow).toBe('row');
    const mark = boxesAt(read.structure, 480, read.m).get('under');
    expect(mark?.x).toBeCloseTo(480 - 44, 0);
  });

  test('words that break otherwise push what is below them, which keeps its make-up', async () => {
    const paragraph = (spacing: number, x: number, y: number, ...texts: string[]) =>
      `<text id="p" letter-spacing="${spacing}">${texts.map((t, i) => `<tspan x="${x}" y="${y + i * 24}">${t}</tspan>`).join('')}</text>`;
    const rows = (x: number, y: number, width: number) =>
      [0, 1, 2]
        .map(
          (i) =>
            rect(`r${i}`, x, y + i * 76, width, 60) +
            words(`rt${i}`, x + 20, y + 36 + i * 76, `Pier ${i + 1}`),
        )
        .join('');
    const read = await readAll(
      svg(
        1280,
        400,
        paragraph(
          -0.9,
          340,
          60,
          'Foot passengers board by the north ramp, cars by the stern gate, until a quarter of an',
        ),
        rows(40, 120, 1200),
      ),
      svg(
        390,
        420,
        paragraph(
          0,
          24,
          60,
          'Foot passengers board by the north',
          'ramp, cars by the stern gate, until',
          'a quarter of an',
        ),
        rows(24, 150, 342),
      ),
    );
    expectFaithful(read);
    for (const id of ['r0', 'rt1', 'rt2'])
      expect([...walk(read.structure.root)].filter((p) => p.source.includes(id))).toHaveLength(1);
    expect([...walk(read.structure.root)].filter((p) => p.source.includes('p')).length).toBeGreaterThan(1);
  });

  test('things that stand in another order have it below the breakpoint', async () => {
    const block = (id: string, text: string, x: number, y: number, w: number, fill: string) =>
      rect(`${id}r`, x, y, w, 80, `fill="${fill}"`) + words(`${id}t`, x + 16, y + 46, text);
    const read = await pair(
      [block('a', 'Fares', 20, 40, 300, '#e3ecea'), block('b', 'Fleet', 340, 40, 640, '#f4e6cf')],
      [block('x', 'Fleet', 20, 40, 350, '#f4e6cf'), block('y', 'Fares', 20, 140, 350, '#e3ecea')],
    );
    expectFaithful(read);
    const boxes = boxesAt(read.structure, 390, read.m);
    expect(boxes.get('br')?.y).toBeLessThan(boxes.get('ar')?.y ?? 0);
  });

  test('a row that only has no room becomes a wrap and needs no breakpoint', async () => {
    const { wide, button } = buttons(await testMeasurer(), 'fill="#b5562a"');
    const title = (id: string) => words(`${id}h`, 20, 60, 'Book a crossing', 'font-size="28"');
    const [first, second] = ['Book this sailing now', 'Look at all the fares'];
    const read = await pair(
      [title('w'), button('a', first, 20, 100), button('b', second, 36 + wide(first), 100)],
      [title('n'), button('x', first, 20, 100), button('y', second, 20, 160)],
      [184, 244],
    );
    expectFaithful(read);
    expect(breakpoints(read.structure)).toEqual([]);
    expect(outline(read.structure.root)).toContain('wrap');
  });

  test('what is one line in the wide drawing and several in the narrow one is one wrap', async () => {
    const { wide, button } = buttons(await testMeasurer(), 'rx="22" fill="#e3ecea"');
    const title = (id: string) => words(`${id}h`, 20, 60, 'Filters', 'font-size="28"');
    const labels = ['Car deck open', 'No stairs', 'Bicycles', 'Cabins for the night'];
    const line = (id: string, from: number, to: number, y: number) => {
      let x = 20;
      return labels.slice(from, to).map((label, i) => {
        const drawn = button(`${id}${from + i}`, label, x, y);
        x += wide(label) + 12;
        return drawn;
      });
    };
    const read = await pair(
      [title('w'), ...line('a', 0, 4, 100)],
      [title('n'), ...line('x', 0, 2, 100), ...line('x', 2, 4, 156)],
      [184, 240],
    );
    expectFaithful(read);
    expect(breakpoints(read.structure)).toEqual([]);
    expect(outline(read.structure.root)).toContain('wrap');
  });

  test('what is as wide as its room in both is said once', async () => {
    const card = (id: string, w: number) =>
      rect(`${id}r`, 20, 40, w, 100, 'fill="#e3ecea"') + words(`${id}t`, 40, 90, 'Space on the car deck');
    const read = await pair([card('w', 960)], [card('n', 350)], [180, 180]);
    expectFaithful(read);
    expect([...walk(read.structure.root)].flatMap((p) => p.below ?? [])).toEqual([]);
  });

  test('ids and their order say nothing', async () => {
    const wide = readFileSync(new URL('departures-1280.svg', DEMO), 'utf8');
    const narrow = readFileSync(new URL('departures-390.svg', DEMO), 'utf8');
    const bare = (source: string): string =>
      source.replace(/ id="([^"]+)"/g, (whole, id: string) => (source.includes(`#${id}`) ? whole : ''));
    const shape = (part: Part): unknown => [
      part.kind,
      part.rules,
      part.below ?? [],
      part.children.map(shape),
    ];
    const [named, unnamed, turned] = [
      await readAll(wide, narrow),
      await readAll(bare(wide), bare(narrow)),
      await readAll(narrow, wide),
    ];
    expect(shape(unnamed.structure.root)).toEqual(shape(named.structure.root));
    expect(JSON.stringify(turned.structure)).toBe(JSON.stringify(named.structure));
  });

  test('three drawings have a breakpoint each', async () => {
    const at = (width: number, pad: number, size: number) =>
      svg(
        width,
        400,
        rect(`f${width}`, 0, 0, width, 400, 'fill="#fff"'),
        rect(`r${width}`, pad, pad, width - 2 * pad, 200, 'fill="#e3ecea"'),
        words(`t${width}`, pad + 20, pad + 80, 'Next boat', `font-size="${size}"`),
      );
    const read = await readAll(at(1280, 64, 48), at(768, 40, 36), at(390, 16, 28));
    expectFaithful(read);
    expect(breakpoints(read.structure)).toHaveLength(2);
  });

  test('one drawing is read as by itself; none is an error', async () => {
    const { drawings, m } = await open(readFileSync(new URL('boarding-pass-390.svg', DEMO), 'utf8'));
    const [only] = alignDrawings(drawings);
    expect(only?.drawing.items.map((i) => i.id)).toEqual(drawings[0]?.items.map((i) => i.id));
    expect(() => readSeveral([], m)).toThrow('There is no drawing to read.');
  });
});

const readCase = ({ files }: BenchmarkCase) => readAll(...files.map((f) => readFileSync(f, 'utf8')));

describe('both drawings of a benchmark case stand as drawn', () => {
  test.each(patternCases)('$name', async (of) => {
    expectFaithful(await readCase(of), 2.5);
  });

  test.runIf(pageCases.length > 0)(
    'three in four real pages',
    () =>
      expectOfMost(
        everyPage(3),
        0.75,
        (c) => c.name,
        // Pages taken from the web have words that break a hair otherwise; what is off is reported.
        async (of) => {
          expectFaithful(await readCase(of), 8);
        },
      ),
    MINUTES,
  );
});

describe('what stands apart in one drawing and is mixed in the other', () => {
  interface Places {
    /** Where what stands at the left begins, the first baseline, and that of the figures. */
    readonly left: number;
    readonly first: number;
    readonly figures: number;
    readonly button: readonly [x: number, y: number];
  }
  const drawn = (width: number, height: number, { left, first, figures, button: [x, y] }: Places): string =>
    svg(
      width,
      height,
      words('title', left, first, 'Sailings today', 'font-size="32" font-weight="600"'),
      words('note', left, first + 32, 'Boats leave pier 3 in the order of this list'),
      rect('button', x, y, 160, 44),
      words('label', x + 24, y + 27, 'Book a crossing'),
      words('cars', left, figures, '34 cars', 'font-size="24"'),
      words('bikes', width - left - 87, figures, '12 bikes', 'font-size="24"'),
    );
  const wide = drawn(1000, 180, { left: 40, first: 60, figures: 130, button: [800, 40] });
  const narrow = drawn(390, 240, { left: 20, first: 50, figures: 190, button: [20, 104] });
  const around = (structure: Structure, id: string): string[] =>
    [...walk(pathTo(structure.root, partOf(structure.root, id).id).at(-2) as Part)].flatMap((p) => p.source);

  test('is two columns by the wide drawing alone', async () => {
    const { structure } = await readAll(wide);
    expect(around(structure, 'cars')).toContain('title');
  });

  test('is two lines by both', async () => {
    const read = await readAll(wide, narrow);
    expect(around(read.structure, 'cars')).toEqual(['cars', 'bikes']);
    // Nothing is shown by a copy of it.
    const shown = [...walk(read.structure.root)].flatMap((p) => p.source);
    expect(new Set(shown).size).toBe(shown.length);
    expectFaithful(read);
  });
});
