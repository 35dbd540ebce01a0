import { describe, expect, test } from 'vitest';
import type { Part } from '@tinfold/core/model';
import { column, grid, shape, text } from '../../core/test/support/build.js';
import { CELLS } from '../src/workbench/cells';
import { counterparts, filtered, rowsOf, shownRow } from '../src/workbench/rows';

const copy = (name: string, badge = false): Part => ({
  ...column(
    { gap: 4 },
    text(name),
    shape(5, 5),
    ...(badge ? [shape(3, 3, { pin: { top: 0, right: 0 } })] : []),
  ),
  name,
  pattern: 'Card',
});
const cards = [copy('Marrow Isle'), copy('Low Tarn', true), copy('Nether Quay')];
const board = grid({ columns: { kind: 'repeat', min: 200 } }, ...cards);
const root = column({}, text('Next sailings'), board);
const none: ReadonlySet<string> = new Set();
const open: ReadonlySet<string> = new Set(['Card']);

describe('the rows of the parts list', () => {
  test('a pattern stands once with its count, and each copy when it is opened', () => {
    expect(rowsOf(root, none).map((r) => [r.depth, r.copies])).toEqual([
      [0, 1],
      [1, 1],
      [1, 1],
      [2, 3],
      [3, 1],
      [3, 1],
    ]);
    expect(rowsOf(root, open).filter((r) => r.part.pattern === 'Card')).toHaveLength(3);
  });

  test('what is in a closed pattern stands for its counterparts in all copies', () => {
    const shapes = cards.map((c) => c.children[1]?.id);
    expect(counterparts(root, shapes[0] ?? '', none).map((p) => p.id)).toEqual(shapes);
    expect(counterparts(root, shapes[2] ?? '', none).map((p) => p.id)).toEqual(shapes);
    expect(counterparts(root, shapes[0] ?? '', open).map((p) => p.id)).toEqual([shapes[0]]);
    expect(counterparts(root, board.id, none)).toEqual([board]);
  });

  test('a part in another copy is found in the row of the first', () => {
    const rows = rowsOf(root, none);
    const words = cards[2]?.children[0]?.id ?? '';
    expect(rows[shownRow(root, words, rows, none)]?.part).toBe(cards[0]?.children[0]);
    expect(shownRow(root, 'gone', rows, none)).toBe(-1);
  });
});

describe('the cells of the parts list', () => {
  const cell = (key: string) => {
    const found = CELLS.find((c) => c.key === key);
    if (!found) throw new Error(`no cell ${key}`);
    return found;
  };

  test.each([
    ['flow', 'grid', { flow: 'grid', columns: { kind: 'repeat', min: 240 } }],
    ['flow', 'row', { flow: 'row', columns: null }],
    ['width', 'fill 2', { width: { kind: 'fill', weight: 2 } }],
    ['height', '16:9', { height: { kind: 'ratio', width: 16, height: 9 } }],
    ['gap', '12 / 8', { gap: 12, crossGap: 8 }],
    ['gap', 'between', { gap: 'between' }],
    ['padding', '8 12', { padding: { top: 8, right: 12, bottom: 8, left: 12 } }],
    ['align', 'middle', { align: 'centre' }],
    ['limits', '', { minWidth: null, maxWidth: null }],
    ['limits', '≤ 360', { minWidth: null, maxWidth: 360 }],
  ])('%s takes “%s”', (key, typed, set) => {
    expect(cell(key).parse?.(typed)).toEqual({ ok: true, value: set });
  });

  test('what a cell shows it also takes', () => {
    for (const { part } of rowsOf(root, open))
      for (const kind of CELLS) {
        const shown = kind.show(part);
        if (!kind.parse || shown === '' || !kind.applies(part, false) || kind.key === 'flow') continue;
        expect(kind.parse(shown).ok, `${kind.key}: ${shown}`).toBe(true);
      }
  });

  test('a leaf has no flow, gap, padding or alignment; the frame no width of its own', () => {
    const leaf = cards[0]?.children[0] as Part;
    const keys = (part: Part, isRoot: boolean) =>
      CELLS.filter((c) => c.applies(part, isRoot)).map((c) => c.key);
    for (const none of ['flow', 'gap', 'padding', 'align', 'justify', 'more', 'clip', 'reverse'])
      expect(keys(leaf, false)).not.toContain(none);
    expect(keys(leaf, false)).toEqual(
      expect.arrayContaining(['width', 'height', 'limits', 'pin', 'self', 'order']),
    );
    for (const none of ['width', 'limits', 'pin', 'self', 'before', 'order', 'gives'])
      expect(keys(root, true)).not.toContain(none);
    expect(keys(root, true)).toEqual(expect.arrayContaining(['flow', 'height', 'gap', 'padding', 'align']));
  });
});

describe('the filter', () => {
  const known = {
    faults: new Set([board.id]),
    questions: new Set<string>(),
    changed: new Set<string>(),
    differs: new Map(),
  };
  const found = (typed: string) => filtered(rowsOf(root, none), typed, known).map((r) => r.part.name);

  test('takes words of names and of rules, and all of them', () => {
    expect(found('marrow')).toEqual(['Marrow Isle']);
    expect(found('fault')).toEqual([board.name]);
    expect(found('question')).toEqual([]);
    expect(found('fixed')).toHaveLength(1);
    expect(found('fixed marrow')).toEqual([]);
    expect(found('')).toHaveLength(rowsOf(root, none).length);
  });

  test('what is folded away has no rows, and its part keeps its own', () => {
    const folded = rowsOf(root, none, new Set([board.id]));
    expect(folded.map((r) => r.part.id)).toEqual([root.id, root.children[0]?.id, board.id]);
    expect(folded.at(-1)?.folded).toBe(true);
  });
});
