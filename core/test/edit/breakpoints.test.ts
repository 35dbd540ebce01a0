import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { dropBreakpoint, isRefusal, moveBreakpoint, type Answer, type Bench } from '@tinfold/core/edit';
import { Engine } from '@tinfold/core/layout';
import { applyStep, breakpoints, invertStep, standing, walk, type Structure } from '@tinfold/core/model';
import { column, named, shape, structure } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const bench: Bench = { engine: new Engine(await testMeasurer()), widths: [1000] };

const doc: Structure = {
  ...structure({
    ...column({ gap: 30 }, named('a', shape(10, 10)), {
      ...named('b', shape(10, 10)),
      below: [{ width: 600, rules: { hidden: true } }],
    }),
    bound: { gap: 'space' },
    below: [
      { width: 900, rules: { padding: { top: 8, right: 8, bottom: 8, left: 8 } } },
      { width: 600, rules: { padding: null } },
    ],
  }),
  tokens: [{ kind: 'length', name: 'space', value: 30, below: [{ width: 600, value: 12 }] }],
};

function done(on: Structure, answer: Answer): Structure {
  if (isRefusal(answer)) throw new Error(answer.reason);
  const result = applyStep(on, answer.step);
  if (!result.ok) throw new Error(result.reason);
  expect(applyStep(result.doc, invertStep(on, answer.step))).toEqual({ ok: true, doc: on });
  return result.doc;
}

describe('a breakpoint', () => {
  test('moves with all that is said below it, rules and tokens, wherever it goes between its neighbours', () => {
    fc.assert(
      fc.property(fc.integer({ min: 320, max: 899 }), fc.integer({ min: 240, max: 1200 }), (to, width) => {
        const after = done(doc, moveBreakpoint(doc, 600, to, bench));
        expect(breakpoints(after)).toEqual([900, to]);
        // What stood at a width stands at one on the same side of where the breakpoint is now.
        const like = width >= 900 ? width : width < to ? 500 : 700;
        const now = width >= 900 ? width : width < to ? Math.min(500, to - 1) : Math.max(700, to);
        const gap = (of: Structure, at: number) => standing(of, { width: at }).rules;
        expect(gap(after, now)).toEqual(gap(doc, like));
      }),
    );
  });

  test('does not pass its neighbours', () => {
    for (const to of [900, 1000, 0, -3]) expect(isRefusal(moveBreakpoint(doc, 600, to, bench))).toBe(true);
    expect(moveBreakpoint(doc, 600, 950, bench)).toMatchObject({
      reason: 'The breakpoint stays between its neighbours: move it between 0 and 900.',
    });
    expect(isRefusal(moveBreakpoint(doc, 640, 700, bench))).toBe(true);
  });

  test('is taken away: below it holds what holds above', () => {
    const after = done(doc, dropBreakpoint(doc, 600, bench));
    expect(breakpoints(after)).toEqual([900]);
    const said = (of: Structure, width: number) =>
      [...walk(standing(of, { width }))].map((p) => [p.id, p.rules]);
    expect(said(after, 500)).toEqual(said(doc, 700));
  });
});
