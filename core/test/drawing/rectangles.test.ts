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
    ['two boxes', 'M10 20H110V80H10Z M120 20H210V80H120Z'],
    ['a line there and back', 'M10 20H210H10Z'],
  ])('%s stays a picture', async (_, d) => {
    expect((await read(d))?.kind).toBe('art');
  });

  test('a box that is turned stays a picture', async () => {
    expect((await read('M100 100H200V140H100Z', 'transform="rotate(20 150 120)"'))?.kind).toBe('art');
  });
});
