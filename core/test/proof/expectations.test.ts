import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { facesOf, measureDrawing, readSvg } from '@tinfold/core/drawing';
import { readStructure } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import { applyStep, FILL, type Structure } from '@tinfold/core/model';
import {
  FAULT_KINDS,
  formatExpectation,
  holdTo,
  parseExpectation,
  proposeExpectations,
  prove,
  type Expectation,
  type Proved,
} from '@tinfold/core/proof';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { column, grid, shape, structure, text } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const range = { from: 320, to: 1920 };
const parsed = (sentence: string): Expectation => {
  const result = parseExpectation(sentence);
  if (!result.ok) throw new Error(result.reason);
  return result.value;
};

describe('the language of expectations', () => {
  test.each<[string, Expectation]>([
    ['no side scroll 320–1920', { kind: 'none', fault: 'side-scroll', range }],
    ['No side scroll', { kind: 'none', fault: 'side-scroll', range }],
    ['no errors from 320 to 480', { kind: 'none', fault: 'error', range: { from: 320, to: 480 } }],
    [
      'Sailings: 1 column up to 480',
      { kind: 'columns', part: 'Sailings', is: 'exactly', number: 1, range: { from: 1, to: 480 } },
    ],
    [
      'Sailing card width 240 or more',
      { kind: 'width', part: 'Sailing card', is: 'at least', number: 240, range },
    ],
    ['Title at most 2 lines', { kind: 'lines', part: 'Title', is: 'at most', number: 2, range }],
    [
      'Title: 2 lines or fewer from 900',
      { kind: 'lines', part: 'Title', is: 'at most', number: 2, range: { from: 900, to: 10_000 } },
    ],
    ['order as drawn', { kind: 'order', range }],
    ['as drawn at 390', { kind: 'as drawn', width: 390 }],
  ])('%s', (sentence, expectation) => {
    expect(parsed(sentence)).toEqual(expectation);
  });

  test.each(['', 'no wobble', 'Sailings: blue', 'no side scroll 900–320'])(
    '“%s” is refused with what to write',
    (s) => {
      const result = parseExpectation(s);
      expect(result.ok).toBe(false);
      if (!result.ok) expect(result.reason).toMatch(/write one like “no side scroll 320–1920”/);
    },
  );

  test('what is written is read back', () => {
    const ranges = fc.oneof(
      fc.constant(range),
      fc
        .tuple(fc.integer({ min: 320, max: 900 }), fc.integer({ min: 900, max: 1900 }))
        .map(([from, to]) => ({ from, to })),
      fc.integer({ min: 320, max: 1900 }).map((to) => ({ from: 1, to })),
      fc.integer({ min: 320, max: 1900 }).map((from) => ({ from, to: 10_000 })),
    );
    const expectation = fc.oneof(
      fc.record({
        kind: fc.constant('none' as const),
        fault: fc.constantFrom(...FAULT_KINDS, 'error' as const, 'warning' as const),
        range: ranges,
      }),
      fc.record({
        kind: fc.constantFrom('columns' as const, 'lines' as const, 'width' as const, 'height' as const),
        part: fc.constantFrom('Sailings', 'Sailing card', 'Title'),
        is: fc.constantFrom('at most' as const, 'at least' as const, 'exactly' as const),
        number: fc.integer({ min: 1, max: 900 }),
        range: ranges,
      }),
      fc.record({ kind: fc.constant('order' as const), range: ranges }),
      fc.record({ kind: fc.constant('as drawn' as const), width: fc.integer({ min: 320, max: 1900 }) }),
    );
    fc.assert(
      fc.property(expectation, (e) => {
        expect(parsed(formatExpectation(e))).toEqual(e);
      }),
    );
  });
});

describe('expectations are held to the structure', () => {
  const board = structure(
    column(
      { width: FILL },
      { ...text('Next boat to Marrow Isle', { width: FILL }), name: 'Title' },
      {
        ...grid(
          { columns: { kind: 'repeat', min: 300 }, width: FILL },
          ...[1, 2, 3].map(() => ({ ...column({ width: FILL }, text('Low Tarn')), pattern: 'Sailing card' })),
        ),
        name: 'Sailings',
      },
      { ...shape(400, 20), name: 'Notice' },
    ),
    1000,
  );

  async function proved(doc: Structure): Promise<Proved> {
    const engine = new Engine(await testMeasurer());
    return { structure: doc, engine, faults: prove(doc, engine).faults, range, drawings: [] };
  }

  test.each<[string, boolean, number[][]]>([
    ['no side scroll', false, [[320, 398]]],
    ['no side scroll from 399', true, []],
    ['Sailings: 1 column up to 599', true, []],
    ['Sailings: 1 column up to 640', false, [[600, 640]]],
    ['Sailings: at most 3 columns up to 1199', true, []],
    ['Sailings: at most 2 columns', false, [[900, 1920]]],
    ['Sailing card: width 300 or more', true, []],
    [
      'Sailing card: width 320 or more',
      false,
      [
        [600, 638],
        [900, 958],
        [1200, 1277],
        [1500, 1597],
        [1800, 1916],
      ],
    ],
    ['Title: at most 1 line', true, []],
    ['Notice: width 400', true, []],
    ['order as drawn', true, []],
  ])('%s', async (sentence, holds, broken) => {
    const [held] = holdTo([parsed(sentence)], await proved(board));
    expect([held?.holds, held?.broken.map((r) => [r.from, r.to])]).toEqual([holds, broken]);
  });

  test('what cannot be looked at says why', async () => {
    const held = holdTo(
      [parsed('Ferries: 2 columns'), parsed('Notice: 2 lines'), parsed('as drawn at 500')],
      await proved(board),
    );
    expect(held.map((h) => h.holds)).toEqual([false, false, false]);
    expect(held[0]?.reason).toMatch(/Nothing is called “Ferries”/);
    expect(held[1]?.reason).toMatch(/has no words/);
    expect(held[2]?.reason).toMatch(/no drawing at 500/);
  });

  test('as drawn, until an edit moves something', async () => {
    const raw = readSvg(
      readFileSync(new URL('../../../demo/departures-1280.svg', import.meta.url), 'utf8'),
      'Board',
    );
    const m = await loadMeasurer(facesOf(raw));
    const drawing = measureDrawing(raw, m);
    const doc = readStructure(drawing, m);
    const engine = new Engine(m);
    const hold = (s: Structure) =>
      holdTo([parsed('as drawn at 1280')], { structure: s, engine, faults: [], range, drawings: [drawing] });
    expect(hold(doc)).toMatchObject([{ holds: true, parts: [] }]);
    const moved = applyStep(doc, { kind: 'setRules', parts: [{ id: doc.root.id, set: { gap: 40 } }] });
    expect(moved.ok && hold(moved.doc)[0]?.holds).toBe(false);
    expect(moved.ok && (hold(moved.doc)[0]?.by ?? 0) > 10).toBe(true);
  });

  test('what is proposed holds, and names what the screen does', async () => {
    const seen = await proved(board);
    const proposed = proposeExpectations(seen);
    expect(holdTo(proposed, seen).every((h) => h.holds)).toBe(true);
    const sentences = proposed.map(formatExpectation);
    expect(sentences).toContain('Sailings: 1 column 320–599');
    expect(sentences).toContain('Sailing card: width 300 or more 320–1920');
    expect(sentences).not.toContain('no side scroll 320–1920');
    const wide = await proved({
      ...board,
      root: { ...board.root, children: board.root.children.slice(0, 2) },
    });
    expect(proposeExpectations(wide).map(formatExpectation)).toContain('no side scroll 320–1920');
  });
});
