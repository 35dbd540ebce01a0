import { expect, test } from 'vitest';
import type { Reflow } from '@tinfold/core/layout';
import type { Rect } from '@tinfold/core/model';
import { column, named, row, shape } from '../../core/test/support/build.js';
import { landingAt } from '../src/workbench/carry';

const root = named(
  'frame',
  column(
    {},
    named('line', row({}, named('a', shape(1, 1)), named('b', shape(1, 1)))),
    named('c', shape(1, 1)),
  ),
);
const boxes: Record<string, Rect> = {
  frame: { x: 0, y: 0, width: 400, height: 200 },
  line: { x: 0, y: 0, width: 400, height: 100 },
  a: { x: 0, y: 0, width: 100, height: 100 },
  b: { x: 120, y: 0, width: 100, height: 100 },
  c: { x: 0, y: 120, width: 400, height: 60 },
};
const reflow: Reflow = { width: 400, height: 200, parts: new Map(Object.entries(boxes)), lines: new Map() };
const at = (x: number, y: number, carried = 'c') => {
  const landing = landingAt(root, reflow, carried, x, y);
  return landing && [landing.parent, landing.at, landing.line[0]];
};

test('what is carried stands before or after what it is let go beside, in the innermost container there', () => {
  expect(at(10, 50)).toEqual(['line', 0, 0]);
  expect(at(110, 50)).toEqual(['line', 1, 110]);
  expect(at(390, 50)).toEqual(['line', 2, 220]);
  // Its own place is no place among the others.
  expect(at(390, 50, 'a')).toEqual(['line', 1, 220]);
  expect(at(50, 190, 'a')?.slice(0, 2)).toEqual(['frame', 2]);
  expect(at(900, 50)).toBeUndefined();
  expect(at(10, 170, 'line')?.slice(0, 2)).toEqual(['frame', 1]);
});
