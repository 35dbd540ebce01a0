import { beforeAll, describe, expect, test } from 'vitest';
import { Engine, reflow } from '@tinfold/core/layout';
import { FILL, fixed, pad, round, type Part, type Track } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { sizeTracks, trackSpec } from '../../src/layout/tracks.js';
import { placeInGrid } from '../../src/layout/placement.js';
import { column, grid, row, shape, text, wrap } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

let m: ShapedMeasurer;
beforeAll(async () => {
  m = await testMeasurer();
});

/** Every part's box but the root's, in document order. */
function boxes(root: Part, width: number, height?: number): number[][] {
  const { parts } = reflow(root, width, new Engine(m), height);
  return [...parts.values()].slice(1).map((b) => [b.x, b.y, b.width, b.height].map((n) => round(n, 2)));
}

const stroked = (part: Part, width: number): Part => ({
  ...part,
  paint: { stroke: { colour: '#333333', width } },
});

describe('rules of flows', () => {
  test.each<[string, Part, number, number[][]]>([
    [
      'a reversed row stands from the end',
      row({ reverse: true, gap: 10 }, shape(20, 5), shape(30, 5)),
      100,
      [
        [80, 0, 20, 5],
        [40, 0, 30, 5],
      ],
    ],
    [
      'order goes before the document’s',
      row({}, shape(20, 5, { order: 2 }), shape(30, 5)),
      100,
      [
        [0, 0, 30, 5],
        [30, 0, 20, 5],
      ],
    ],
    [
      'right to left, left padding stays left',
      row({ direction: 'rtl', padding: pad(0, 5, 0, 15) }, shape(20, 5), shape(30, 5)),
      100,
      [
        [75, 0, 20, 5],
        [45, 0, 30, 5],
      ],
    ],
    [
      'equal distances from middle to middle',
      row({ gap: 'centres' }, shape(10, 5), shape(30, 5), shape(20, 5)),
      120,
      [
        [15, 0, 10, 5],
        [45, 0, 30, 5],
        [90, 0, 20, 5],
      ],
    ],
    [
      'one gives way first',
      row({}, shape(80, 5, { givesWay: 'first' }), shape(60, 5)),
      100,
      [
        [0, 0, 40, 5],
        [40, 0, 60, 5],
      ],
    ],
    [
      'a forced break in a wrap',
      wrap({ gap: 4, crossGap: 6 }, shape(10, 5), shape(10, 5, { newLine: true }), shape(10, 5)),
      100,
      [
        [0, 0, 10, 5],
        [0, 11, 10, 5],
        [14, 11, 10, 5],
      ],
    ],
    [
      'lines of a wrap apart in a height of its own',
      wrap({ height: fixed(50), alignLines: 'between' }, shape(60, 10), shape(60, 10)),
      100,
      [
        [0, 0, 60, 10],
        [0, 40, 60, 10],
      ],
    ],
    [
      'a stroke that takes room',
      stroked(row({ strokeTakesRoom: true, padding: pad(2) }, shape(10, 5)), 3),
      100,
      [[5, 5, 10, 5]],
    ],
    [
      'a pin by a share',
      column({ height: fixed(100) }, shape(10, 10, { pin: { leftShare: 25, topShare: 50, top: 4 } })),
      200,
      [[50, 54, 10, 10]],
    ],
  ])('%s', (_, root, width, wanted) => {
    expect(boxes(root, width)).toEqual(wanted);
  });

  test('a frame that fills is as high as its window, and what scrolls in it gives way', () => {
    const list = column({ scroll: true, width: FILL, height: FILL }, shape(10, 900));
    const screen = column({ height: FILL }, shape(10, 50), list, shape(10, 40));
    expect(boxes(screen, 390, 844).map(([, y, , h]) => [y, h])).toEqual([
      [0, 50],
      [50, 754],
      [50, 900],
      [804, 40],
    ]);
  });

  test('a text is cut after its lines', () => {
    const words = 'Ellin Skerry by the north ramp until five minutes before sailing';
    const { lines, parts } = reflow(column({}, text(words, { maxLines: 2 }, 20)), 120, new Engine(m));
    expect([...lines.values()][0]).toHaveLength(2);
    expect([...parts.values()][1]?.height).toBe(40);
    const one = reflow(column({}, text(`${words}\nmore`, { maxLines: 1 }, 20)), 120, new Engine(m));
    expect([...one.lines.values()][0]).toHaveLength(1);
  });
});

describe('grids', () => {
  const tracks = (...list: Track[]) => ({ kind: 'tracks' as const, tracks: list });
  const fr = (weight = 1): Track => ({ kind: 'fr', weight });

  test.each<[string, Part, number, number[][]]>([
    [
      'fixed, fr and fit columns',
      grid(
        { columns: tracks({ kind: 'fixed', px: 40 }, fr(), { kind: 'fit' }), gap: 10 },
        shape(10, 5),
        shape(10, 5),
        shape(30, 5),
      ),
      200,
      [
        [0, 0, 10, 5],
        [50, 0, 10, 5],
        [170, 0, 30, 5],
      ],
    ],
    [
      'spans and places',
      grid(
        { columns: { kind: 'count', count: 3 } },
        shape(10, 5, { width: FILL, cell: { columnSpan: 2 } }),
        shape(10, 5),
        shape(10, 5, { cell: { column: 3 } }),
      ),
      90,
      [
        [0, 0, 60, 5],
        [60, 0, 10, 5],
        [60, 5, 10, 5],
      ],
    ],
    [
      'named areas',
      grid(
        {
          columns: tracks(fr(), fr()),
          areas: [
            ['side', 'head'],
            ['side', 'main'],
          ],
        },
        shape(10, 20, { cell: { area: 'main' } }),
        shape(10, 30, { cell: { area: 'side' } }),
        shape(10, 5, { cell: { area: 'head' } }),
      ),
      100,
      [
        [50, 7.5, 10, 20],
        [0, 0, 10, 30],
        [50, 0, 10, 5],
      ],
    ],
    [
      'by column, with rows of their own',
      grid(
        {
          columns: tracks({ kind: 'fixed', px: 30 }),
          rows: [
            { kind: 'fixed', px: 10 },
            { kind: 'fixed', px: 20 },
          ],
          autoFlow: 'column',
        },
        shape(5, 5),
        shape(5, 5),
        shape(5, 5),
      ),
      100,
      [
        [0, 0, 5, 5],
        [0, 10, 5, 5],
        [30, 0, 5, 5],
      ],
    ],
    [
      'tracks apart, items at their ends',
      grid(
        {
          columns: tracks({ kind: 'fixed', px: 20 }, { kind: 'fixed', px: 20 }),
          justifyTracks: 'between',
          justifyItems: 'end',
        },
        shape(5, 5),
        shape(5, 5),
      ),
      100,
      [
        [15, 0, 5, 5],
        [95, 0, 5, 5],
      ],
    ],
  ])('%s', (_, root, width, wanted) => {
    expect(boxes(root, width)).toEqual(wanted);
  });

  test('tracks take what their limits allow', () => {
    const specs = (
      [{ kind: 'range', min: 40, max: 80 }, fr(), { kind: 'fr', weight: 3, min: 10 }] as Track[]
    ).map(trackSpec);
    expect(sizeTracks(specs, [], 400, 0)).toEqual([80, 80, 240]);
    expect(sizeTracks(specs, [], 40, 0)).toEqual([40, 0, 10]);
  });

  test('an item over several tracks makes those grow that may', () => {
    const specs = ([{ kind: 'fixed', px: 20 }, { kind: 'fit' }, { kind: 'fit' }] as Track[]).map(trackSpec);
    const item = { start: 0, span: 3, least: 0, min: 100, max: 140 };
    expect(sizeTracks(specs, [item], 500, 0)).toEqual([20, 60, 60]);
    expect(sizeTracks(specs, [item], 'min-content', 0)).toEqual([20, 40, 40]);
  });

  test('automatic places fill up around those that are said', () => {
    const parts = [shape(1, 1, { cell: { column: 2, row: 1 } }), shape(1, 1), shape(1, 1), shape(1, 1)];
    const places = placeInGrid(parts, { flow: 'grid' }, 2).map((a) => [a.column, a.row]);
    expect(places).toEqual([
      [1, 0],
      [0, 0],
      [0, 1],
      [1, 1],
    ]);
  });
});
