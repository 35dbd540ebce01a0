import { beforeAll, describe, expect, test } from 'vitest';
import { readStructure } from '@tinfold/core/infer';
import { Engine, itemBoxes, reflow } from '@tinfold/core/layout';
import { standing } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

const COLUMNS = [
  { at: 40, wide: 360, words: ['Low Tarn', 'Ellin Skerry and Nether Quay', 'Gull Point', 'Old Pier'] },
  { at: 400, wide: 220, words: ['14:20', 'Sundays at noon', '9:05', '17:40'] },
  { at: 620, wide: 180, words: ['Pier 1', 'Pier 3, by the ramp', 'Pier 12', 'Pier 2'] },
];
const ROW = 48;

/** A table whose rows have a line below, each in as many pieces as `cut` makes of it. */
function table(cut: (columns: typeof COLUMNS) => { at: number; wide: number }[]): string {
  const lines = [0, 1, 2, 3].flatMap((row) =>
    cut(COLUMNS).map(({ at, wide }, i) =>
      rect(`line${row}${i}`, at, 80 + row * ROW, wide, 1, 'fill="#c9c5b8"'),
    ),
  );
  const cells = COLUMNS.flatMap(({ at, words: said }, i) =>
    said.map((word, row) => words(`cell${row}${i}`, at + 8, 62 + row * ROW, word)),
  );
  return [...lines, ...cells].join('');
}

const inPieces = (columns: typeof COLUMNS) => columns;
const whole = () => [{ at: 40, wide: 760 }];

describe('lines that are drawn in pieces', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  const cellsAt = (svg: string, width: number) => {
    const stands = standing(readStructure(draw(840, 320, svg, m), m), { width });
    const boxes = itemBoxes(stands, reflow(stands, width, new Engine(m)));
    return [...boxes]
      .filter(([id]) => id.startsWith('cell'))
      .map(([id, { x, y }]) => [id, Math.round(x), Math.round(y)]);
  };

  test.each([420, 640, 840, 1200])('a table is read as with whole lines, %i wide', (width) => {
    expect(cellsAt(table(inPieces), width).sort()).toEqual(cellsAt(table(whole), width).sort());
  });

  test('the cells of a row stay on one line in all frames', () => {
    for (const width of [320, 420, 640, 840, 1200]) {
      const at = new Map(cellsAt(table(inPieces), width).map(([id, , y]) => [id, y]));
      for (const row of [0, 1, 2, 3])
        expect(at.get(`cell${row}1`), `row ${row} at ${width}`).toBe(at.get(`cell${row}2`));
    }
  });
});
