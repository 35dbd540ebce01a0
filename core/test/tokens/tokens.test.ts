import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { Engine, reflow, standingBoxes } from '@tinfold/core/layout';
import {
  applySteps,
  invertStep,
  applyStep,
  checkAll,
  pad,
  standing,
  walk,
  type Part,
  type Step,
  type Structure,
  type Token,
} from '@tinfold/core/model';
import {
  contrastOf,
  darkOf,
  freed,
  offeredTokens,
  takeOffers,
  weakWords,
  withDark,
} from '@tinfold/core/tokens';
import { anyStructure, soundRoot } from '../support/arbitrary.js';
import { column, named, row, structure, style, text } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

let engine: Engine;
beforeAll(async () => {
  engine = new Engine(await testMeasurer());
});
const WIDTHS = [320, 600, 1000, 1440];
const stands = (doc: Structure) => WIDTHS.map((w) => [...standingBoxes(doc, w, engine)]);
const looks = (doc: Structure) =>
  [...walk(standing(doc, { width: 1000 }))].map(({ id, paint, content }) => [id, paint, content]);

/** The document with every offer taken. */
function withOffers(doc: Structure): Structure {
  const result = applySteps(doc, takeOffers(doc.root, offeredTokens(doc)));
  if (!result.ok) throw new Error(result.reason);
  return result.doc;
}

describe('offers', () => {
  const doc = structure(
    column(
      { gap: 24, padding: pad(16, 24) },
      row({ gap: 16 }, text('Marrow Isle'), text('Low Tarn')),
      text('Sails at noon', {}, 30, style(22)),
    ),
  );

  test('what repeats is offered by its sort, the most used first', () => {
    expect(offeredTokens(doc).map((o) => [o.token.name, o.places.length])).toEqual([
      ['space-24', 3],
      ['space-16', 3],
      ['ink', 3],
      ['type-16', 2],
      ['line-24', 2],
    ]);
  });

  test('what is named already is offered no more', () => {
    expect(offeredTokens(withOffers(doc))).toEqual([]);
  });

  test('taken on any structure they move nothing in any range', () => {
    fc.assert(
      fc.property(
        anyStructure(2).filter((doc) => checkAll(doc).length === 0),
        fc.constantFrom(1200, 700, 400),
        fc.boolean(),
        (before, width, isWide) => {
          const frame = { width, height: isWide ? 300 : 2000 };
          const at = (doc: Structure) => [...reflow(standing(doc, frame), width, engine).parts];
          expect(at(withOffers(before))).toEqual(at(before));
        },
      ),
      { numRuns: 100 },
    );
  });

  test('what steps in narrower frames is offered with its steps', () => {
    const stepped = (id: string): Part => ({
      ...named(id, column({ padding: pad(8, 0), gap: 24 }, text('Low Tarn'), text('Ellin Skerry'))),
      below: [{ width: 700, rules: { gap: 12 } }],
    });
    expect(offeredTokens(structure(column({}, stepped('a'), stepped('b'))))).toContainEqual(
      expect.objectContaining({
        token: { kind: 'length', name: 'space-24-12', value: 24, below: [{ width: 700, value: 12 }] },
      }),
    );
  });

  test('taken on any tree they move and colour nothing; a token that changes changes all its places', () => {
    fc.assert(
      fc.property(soundRoot(2), (root) => {
        const before = structure(root);
        const after = withOffers(before);
        expect(stands(after)).toEqual(stands(before));
        expect(looks(after)).toEqual(looks(before));
      }),
      { numRuns: 60 },
    );
    const named = withOffers(doc);
    const wider = applyStep(named, {
      kind: 'token',
      name: 'space-24',
      to: { kind: 'length', name: 'space-24', value: 40, below: [{ width: 700, value: 8 }] },
    });
    if (!wider.ok) throw new Error(wider.reason);
    const at = (width: number) => standing(wider.doc, { width }).rules;
    expect([at(1000).gap, at(1000).padding]).toEqual([40, pad(16, 40)]);
    expect([at(600).gap, at(600).padding]).toEqual([8, pad(16, 8)]);
  });

  test('freed, the places say the value themselves, in every range; taken back, all is as it was', () => {
    fc.assert(
      fc.property(soundRoot(2), (root) => {
        const named = withOffers(structure(root));
        for (const token of named.tokens ?? []) {
          const step = freed(named, token);
          if ('reason' in step) throw new Error(step.reason);
          const result = applyStep(named, step);
          if (!result.ok) throw new Error(result.reason);
          expect(result.doc.tokens ?? []).not.toContainEqual(token);
          expect(stands(result.doc)).toEqual(stands(named));
          expect(looks(result.doc)).toEqual(looks(named));
          expect(applyStep(result.doc, invertStep(named, step))).toEqual({ ok: true, doc: named });
        }
      }),
      { numRuns: 40 },
    );
  });

  test('type of several sizes stays with its token, and says so', () => {
    const type: Token = { kind: 'length', name: 'type-16', value: 16, below: [{ width: 600, value: 14 }] };
    const named = withOffers(doc);
    const stepped = applyStep(named, { kind: 'token', name: 'type-16', to: type });
    if (!stepped.ok) throw new Error(stepped.reason);
    expect(freed(stepped.doc, type)).toEqual({
      reason: expect.stringContaining('give the token one value first') as string,
    });
  });
});

describe('a token’s step', () => {
  const doc: Structure = {
    ...structure(column({}, text('a'))),
    tokens: [{ kind: 'length', name: 'space', value: 8 }],
  };

  test.each<[string, Step, RegExp]>([
    [
      'a name that is taken',
      { kind: 'token', name: 'room', to: { kind: 'length', name: 'space', value: 1 } },
      /already/,
    ],
    [
      'a name that is none',
      { kind: 'token', name: 'Big', to: { kind: 'length', name: 'Big', value: 1 } },
      /begin with a letter/,
    ],
    ['one that is gone', { kind: 'token', name: 'room', to: null }, /no token “room”/],
  ])('%s is refused', (_, step, reason) => {
    expect(applyStep(doc, step)).toEqual({ ok: false, reason: expect.stringMatching(reason) as string });
  });

  test('one that is taken away leaves its places to their own value, and one that is named anew keeps them', () => {
    const root = { ...doc.root, bound: { gap: 'space' } };
    const used = { ...doc, root };
    const gone = applyStep(
      { ...used, tokens: [{ kind: 'length', name: 'space', value: 30 }] },
      { kind: 'token', name: 'space', to: null },
    );
    expect(gone.ok && standing(gone.doc, { width: 900 }).rules.gap).toBeUndefined();
    const result = applyStep(used, {
      kind: 'token',
      name: 'space',
      to: { kind: 'length', name: 'room', value: 8 },
    });
    expect(result.ok && result.doc.root.bound).toEqual({ gap: 'room' });
  });
});

describe('dark paper', () => {
  test('what is light is dark and the other way round, of the same hue', () => {
    const [paper, ink] = [darkOf('#ffffff') ?? '', darkOf('#101010') ?? ''];
    expect(contrastOf(ink, paper)).toBeGreaterThan(10);
    expect(contrastOf('#ffffff', paper)).toBeGreaterThan(10);
    expect(darkOf('rgba(0, 0, 0, 0.5)')).toMatch(/0\.5/);
    expect(darkOf('no colour')).toBeUndefined();
  });

  test('every colour gets a value, those that have one keep it', () => {
    const doc: Structure = {
      ...structure(column({})),
      tokens: [
        { kind: 'colour', name: 'paper', value: '#ffffff', modes: { dark: '#222222' } },
        { kind: 'colour', name: 'ink', value: '#101010' },
        { kind: 'length', name: 'space', value: 8 },
      ],
    };
    const steps = withDark(doc);
    expect(steps.map((s) => s.kind === 'token' && s.name)).toEqual(['ink']);
    const result = applySteps(doc, steps);
    expect(result.ok && result.doc.tokens?.[1]).toMatchObject({ modes: { dark: darkOf('#101010') } });
  });
});

describe('contrast', () => {
  const on = (ink: string, behind: string, size = 16) => {
    const words = text('a', {}, 24, { ...style(size), colour: ink });
    return weakWords(structure({ ...column({}, words), paint: { fill: { kind: 'solid', colour: behind } } }));
  };

  test.each([
    ['grey on white', '#8a8a8a', '#ffffff', 16, 1],
    ['the same, large', '#8a8a8a', '#ffffff', 28, 0],
    ['ink on white', '#1d2b34', '#ffffff', 16, 0],
    ['half of black on white', 'rgba(0, 0, 0, 0.3)', '#ffffff', 16, 1],
  ])('%s', (_, ink, behind, size, count) => {
    expect(on(ink, behind, size)).toHaveLength(count);
  });

  test('words of a mode are judged in it', () => {
    const words = { ...text('a', {}, 24, { ...style(16), colour: '#1d2b34' }) };
    const doc: Structure = {
      ...structure({
        ...column({}, words),
        paint: { fill: { kind: 'solid', colour: '#ffffff' } },
        bound: { fill: 'paper' },
      }),
      tokens: [{ kind: 'colour', name: 'paper', value: '#ffffff', modes: { dark: '#222222' } }],
    };
    expect(weakWords(doc)).toEqual([]);
    expect(weakWords(doc, 'dark')).toMatchObject([{ part: words.id, behind: '#222222', least: 4.5 }]);
  });
});
