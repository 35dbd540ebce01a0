import { describe, expect, test } from 'vitest';
import type { Reflow } from '@tinfold/core/layout';
import type { Rect } from '@tinfold/core/model';
import { column, named, row, shape } from '../../core/test/support/build.js';
import { distancesOf, inShort, inWords } from '../src/workbench/distances';
import { nextInHand, partAt, partsIn } from '../src/workbench/pointing';

const root = named(
  'frame',
  column(
    {},
    named('bar', row({ stay: { side: 'top', at: 0 } }, named('logo', shape(30, 30)))),
    named(
      'cards',
      row({}, named('one', column({}, named('words', shape(50, 20)))), named('two', shape(100, 100))),
    ),
  ),
);
const boxes: Record<string, Rect> = {
  frame: { x: 0, y: 0, width: 400, height: 300 },
  bar: { x: 0, y: 0, width: 400, height: 40 },
  logo: { x: 10, y: 5, width: 30, height: 30 },
  cards: { x: 0, y: 30, width: 400, height: 200 },
  one: { x: 20, y: 60, width: 100, height: 100 },
  words: { x: 30, y: 70, width: 50, height: 20 },
  two: { x: 160, y: 60, width: 100, height: 100 },
};
const reflow: Reflow = { width: 400, height: 300, parts: new Map(Object.entries(boxes)), lines: new Map() };

describe('pointing at a sheet', () => {
  test('finds the innermost, and over all what stays while the rest scrolls', () => {
    expect(partAt(root, reflow, 40, 75)).toBe('words');
    expect(partAt(root, reflow, 300, 35)).toBe('bar');
    expect(partAt(root, reflow, 900, 900)).toBeUndefined();
  });

  test('a click goes one further in each time, or to what stands beside', () => {
    expect(nextInHand(root, 'words', undefined)).toBe('cards');
    expect(nextInHand(root, 'words', 'cards')).toBe('one');
    expect(nextInHand(root, 'words', 'one')).toBe('words');
    expect(nextInHand(root, 'words', 'words')).toBe('words');
    expect(nextInHand(root, 'two', 'words')).toBe('two');
    expect(nextInHand(root, 'frame', 'words')).toBe('frame');
  });

  test('a frame takes what lies whole in it, the outermost', () => {
    expect(partsIn(root, reflow, { x: 10, y: 50, width: 260, height: 120 })).toEqual(['one', 'two']);
    expect(partsIn(root, reflow, { x: 25, y: 65, width: 60, height: 40 })).toEqual(['words']);
    expect(partsIn(root, reflow, { x: 0, y: 0, width: 5, height: 5 })).toEqual([]);
  });
});

describe('distances', () => {
  test('of what is pointed at go to its neighbours, or to its container', () => {
    const found = distancesOf(root, reflow, 'two', undefined);
    expect(inShort(found)).toBe('← 40  ↑ 30  → 140  ↓ 70');
    expect(found.map((d) => d.to)).toEqual(['one', 'cards', 'cards', 'cards']);
  });

  test('from the part in hand go to what is pointed at, where they lie apart', () => {
    expect(inWords(distancesOf(root, reflow, 'two', 'one'))).toBe('right 40 to “two”');
    expect(inWords(distancesOf(root, reflow, 'words', 'logo'))).toBe('bottom 35 to “words”');
    expect(distancesOf(root, reflow, 'words', 'one').map((d) => d.side)).toEqual([
      'left',
      'top',
      'right',
      'bottom',
    ]);
    expect(distancesOf(root, reflow, 'gone', 'one')).toEqual([]);
  });
});
