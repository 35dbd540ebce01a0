import { describe, expect, test } from 'vitest';
import {
  cellsOf,
  cellsUnder,
  isRefusal,
  mergeCells,
  standingOf,
  type Bench,
  type Cells,
} from '@tinfold/core/edit';
import { Engine } from '@tinfold/core/layout';
import { applyStep, FILL, findPart, invertStep, type Part, type Structure } from '@tinfold/core/model';
import { column, grid, named, shape, structure } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const bench: Bench = { engine: new Engine(await testMeasurer()), widths: [1000] };
const names = ['one', 'two', 'three', 'four', 'five', 'six'];
const cards = named(
  'cards',
  grid(
    { columns: { kind: 'count', count: 3 }, gap: 20, width: FILL },
    ...names.map((n) => named(n, shape(1, 60, { width: FILL }))),
  ),
);
const doc = structure(column({}, cards));
const cells = (column: number, row: number, columns: number, rows: number): Cells => ({
  column,
  row,
  columns,
  rows,
});

function merged(on: Structure, where: Cells): Structure {
  const answer = mergeCells(on, 'cards', where, bench);
  if (isRefusal(answer)) throw new Error(answer.reason);
  const result = applyStep(on, answer.step);
  if (!result.ok) throw new Error(result.reason);
  expect(applyStep(result.doc, invertStep(on, answer.step))).toEqual({ ok: true, doc: on });
  return result.doc;
}
const gridOf = (on: Structure) => findPart(on.root, 'cards') as Part;

describe('cells of a grid made one area', () => {
  test('hold what stood first in them; the others flow around it', () => {
    const after = merged(doc, cells(0, 0, 2, 2));
    expect(gridOf(after).rules.areas).toEqual([
      ['one', 'one', '.'],
      ['one', 'one', '.'],
    ]);
    const boxes = standingOf(after, bench)[0];
    const width = (1000 - 2 * 20) / 3;
    expect(boxes?.get('one')).toMatchObject({ x: 0, y: 0 });
    expect(boxes?.get('one')?.width).toBeCloseTo(2 * width + 20);
    expect(boxes?.get('two')?.x).toBeCloseTo(2 * width + 40);
    expect(boxes?.get('three')?.x).toBeCloseTo(2 * width + 40);
    expect(boxes?.get('four')?.x).toBe(0);
  });

  test('a second area stands beside the first, and takes in one that lies in it, but cuts none', () => {
    const first = merged(doc, cells(0, 0, 2, 1));
    const second = merged(first, cells(0, 1, 1, 2));
    expect(gridOf(second).rules.areas?.map((l) => l.join(' '))).toEqual([
      'one one .',
      'three . .',
      'three . .',
    ]);
    const cut = mergeCells(second, 'cards', cells(1, 0, 2, 1), bench);
    expect(isRefusal(cut) && cut.reason).toMatch(/area “one” would be cut/);
    const whole = merged(second, cells(0, 0, 3, 1));
    expect(new Set(gridOf(whole).rules.areas?.flat())).toContain('one-2');
    expect(gridOf(whole).rules.areas?.[0]).toEqual(['one-2', 'one-2', 'one-2']);
  });

  test('are none where the grid has other columns', () => {
    const narrower = {
      ...cards,
      below: [{ width: 600, rules: { columns: { kind: 'count', count: 1 } as const } }],
    };
    const after = merged(structure(column({}, narrower)), cells(1, 0, 2, 1));
    const at = (width: number) => standingOf(after, { ...bench, widths: [width] })[0];
    expect(at(1000)?.get('two')?.width).toBeGreaterThan(600);
    expect(names.map((n) => at(500)?.get(n)?.width)).toEqual(names.map(() => 500));
  });

  test.each([
    ['one cell', cells(0, 0, 1, 1), /two cells/],
    ['cells that no part stands in', cells(0, 4, 2, 1), /Nothing stands/],
    ['more columns than there are', cells(2, 0, 2, 1), /has 3 columns/],
  ])('%s are refused with the reason', (_, where, reason) => {
    const answer = mergeCells(doc, 'cards', where, bench);
    expect(isRefusal(answer) && answer.reason).toMatch(reason);
  });

  test('are those that a frame meets, and those that parts stand in', () => {
    const boxes = standingOf(doc, bench)[0] ?? new Map<string, never>();
    expect(cellsUnder(cards, boxes, { x: 100, y: 30, width: 400, height: 10 })).toEqual(cells(0, 0, 2, 1));
    expect(cellsUnder(cards, boxes, { x: 400, y: 30, width: 600, height: 90 })).toEqual(cells(1, 0, 2, 2));
    expect(cellsUnder(cards, boxes, { x: 0, y: 500, width: 9, height: 9 })).toBeUndefined();
    expect(cellsOf(cards, ['two', 'six'])).toEqual(cells(1, 0, 2, 2));
  });
});
