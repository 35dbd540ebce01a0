import { describe, expect, test } from 'vitest';
import { NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { testMeasurer } from '../support/fonts.js';

const read = async (d: string, more = '') => {
  const source = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300"><path id="p" d="${d}" fill="#0a4f55" ${more}/></svg>`;
  return openDrawing(source, 'x').measure(await testMeasurer(), NO_DECISIONS).items[0];
};

describe('paths that are plain boxes', () => {
  test.each<[string, string, number | readonly number[] | undefined]>([
    ['four corners and back', 'M10 20H210V80H10V20Z', undefined],
    ['lines, the other way round', 'M10 20L10 80L210 80L210 20Z', undefined],
    [
      'corners as curves',
      'M14 20H206C208.2 20 210 21.8 210 24V76C210 78.2 208.2 80 206 80H14C11.8 80 10 78.2 10 76V24C10 21.8 11.8 20 14 20Z',
      4,
    ],
    ['corners as arcs', 'M18 20h184a8 8 0 0 1 8 8v44a8 8 0 0 1-8 8H18a8 8 0 0 1-8-8V28a8 8 0 0 1 8-8z', 8],
    ['one round corner', 'M10 20H190C201 20 210 29 210 40V80H10Z', [0, 20, 0, 0]],
    ['round above, square below', 'M18 20H202A8 8 0 0 1 210 28V80H10V28A8 8 0 0 1 18 20Z', [8, 8, 0, 0]],
    ['round at the left, anticlockwise', 'M210 20V80H16A6 6 0 0 1 10 74V26A6 6 0 0 1 16 20Z', [6, 0, 0, 6]],
  ])('%s', async (_, d, radius) => {
    const item = await read(d);
    expect(item).toMatchObject({ kind: 'shape', box: { x: 10, y: 20, width: 200, height: 60 } });
    expect(item?.paint.radius).toEqual(radius);
  });

  test.each<[string, string]>([
    ['a triangle', 'M10 20H210L10 80Z'],
    ['a step', 'M10 20H210V50H110V80H10Z'],
    ['a corner cut off', 'M10 20H190L210 40V80H10Z'],
    ['three bars of an icon', 'M10 20H34V23H10Z M10 28H34V31H10Z M10 36H34V39H10Z'],
    ['a box and a triangle', 'M10 20H110V80H10Z M120 20H210L120 80Z'],
    ['a box with two holes', 'M10 20H210V80H10Z M20 30H60V40H20Z M80 30H120V40H80Z'],
    ['a line there and back', 'M10 20H210H10Z'],
  ])('%s stays a picture', async (_, d) => {
    expect((await read(d))?.kind).toBe('art');
  });

  test('a box that is turned stays a picture', async () => {
    expect((await read('M100 100H200V140H100Z', 'transform="rotate(20 150 120)"'))?.kind).toBe('art');
  });
});

describe('paths that draw several boxes', () => {
  const all = async (d: string) => {
    const source = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300"><path id="p" d="${d}" fill="#0a4f55" fill-rule="evenodd"/></svg>`;
    return openDrawing(source, 'x').measure(await testMeasurer(), NO_DECISIONS).items;
  };

  test('are those boxes', async () => {
    const items = await all(
      'M10 20H110V80H10Z M124 20H206C208.2 20 210 21.8 210 24V76C210 78.2 208.2 80 206 80H124C121.8 80 120 78.2 120 76V24C120 21.8 121.8 20 124 20Z',
    );
    expect(items.map(({ id, kind, box, paint }) => ({ id, kind, box, radius: paint.radius }))).toEqual([
      { id: 'p', kind: 'shape', box: { x: 10, y: 20, width: 100, height: 60 }, radius: undefined },
      { id: 'p-2', kind: 'shape', box: { x: 120, y: 20, width: 90, height: 60 }, radius: 4 },
    ]);
  });

  test('are borders where a box has a hole of its own form', async () => {
    const ring =
      'M18 20H202A8 8 0 0 1 210 28V72A8 8 0 0 1 202 80H18A8 8 0 0 1 10 72V28A8 8 0 0 1 18 20Z M18 22A6 6 0 0 0 12 28V72A6 6 0 0 0 18 78H202A6 6 0 0 0 208 72V28A6 6 0 0 0 202 22Z';
    const [only, ...others] = await all(ring);
    expect(others).toEqual([]);
    expect(only).toMatchObject({
      kind: 'shape',
      box: { x: 10, y: 20, width: 200, height: 60 },
      paint: { stroke: { colour: '#0a4f55', width: 2 }, radius: 8 },
    });
    expect(only?.paint.fill).toBeUndefined();
  });

  test('of which there are thousands are each looked at beside those near it', async () => {
    const many = Array.from(
      { length: 4_000 },
      (_, i) => `M${(i % 40) * 10} ${Math.floor(i / 40) * 3}h8v2h-8z`,
    );
    expect(await all(many.join(''))).toHaveLength(4_000);
  });
});
