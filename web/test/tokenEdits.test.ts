import { describe, expect, test } from 'vitest';
import {
  applyStep,
  standing,
  type ColourToken,
  type LengthToken,
  type Step,
  type Structure,
} from '@tinfold/core/model';
import { column, named, shape, structure, text } from '../../core/test/support/build.js';
import {
  imported,
  parseColour,
  renamed,
  takenAway,
  withColour,
  withLength,
} from '../src/workbench/tokenEdits';
import { bindingOf, settingOf, tokensAt } from '../src/workbench/said';

const space: LengthToken = { kind: 'length', name: 'space', value: 24, below: [{ width: 600, value: 16 }] };
const ink: ColourToken = { kind: 'colour', name: 'ink', value: '#1d2b34' };
const doc: Structure = {
  ...structure(
    named('frame', {
      ...column({ gap: 24 }, named('words', text('a')), named('box', shape(4, 4))),
      bound: { gap: 'space' },
    }),
  ),
  tokens: [space, ink],
};
const done = (step: Step | undefined, on = doc): Structure => {
  const result = step && applyStep(on, step);
  if (!result?.ok) throw new Error(result ? result.reason : 'There is no step.');
  return result.doc;
};
const of = <T>(parsed: { ok: true; value: T } | { ok: false; reason: string }): T => {
  if (!parsed.ok) throw new Error(parsed.reason);
  return parsed.value;
};

describe('what is typed in the tokens’ table', () => {
  test('a length holds in all frames or below a width, and nothing typed leaves it to the wider', () => {
    expect(done(of(withLength(space, undefined, '20 px'))).tokens?.[0]).toMatchObject({ value: 20 });
    const more = done(of(withLength(space, 900, '18')));
    expect(more.tokens?.[0]).toMatchObject({
      below: [
        { width: 900, value: 18 },
        { width: 600, value: 16 },
      ],
    });
    expect(done(of(withLength(space, 600, ''))).tokens?.[0]).toEqual({
      kind: 'length',
      name: 'space',
      value: 24,
    });
    expect(withLength(space, undefined, 'wide')).toMatchObject({ ok: false });
  });

  test('a colour has its own value and one in each mode', () => {
    const dark = of(withColour(ink, 'dark', '#EEEEEE'));
    expect(done(dark).tokens?.[1]).toEqual({ ...ink, modes: { dark: '#eeeeee' } });
    const again = withColour({ ...ink, modes: { dark: '#eeeeee' } }, 'dark', '');
    expect(done(of(again)).tokens?.[1]).toEqual(ink);
    expect(parseColour('sea')).toMatchObject({ ok: false });
  });

  test('a name is written as style sheets have it, and its places follow', () => {
    const step = of(renamed(space, 'Wide Space'));
    expect(done(step).root.bound).toEqual({ gap: 'wide-space' });
    expect(renamed(space, '12')).toMatchObject({ ok: false });
  });

  test('one that is taken away leaves its value at its places', () => {
    const after = done(of(takenAway(doc, space)));
    expect(after.tokens).toEqual([ink]);
    expect(standing(after, { width: 500 }).rules.gap).toBe(16);
  });

  test('a file changes those of its names and adds the others', () => {
    const file = {
      tokens: [
        { ...space, value: 30 },
        { ...space, name: 'ink' },
        { ...space, name: 'room' },
      ],
      left: [],
    };
    const { step, left } = imported(doc, file);
    expect(done(step).tokens?.map((t) => [t.name, t.value])).toEqual([
      ['space', 30],
      ['ink', '#1d2b34'],
      ['room', 24],
    ]);
    expect(left).toEqual(['“ink” is a colour here and a length in the file.']);
  });
});

describe('what is typed in a cell', () => {
  const at = (frameWidth: number) => ({ doc, frameWidth, frameHeight: undefined, holds: undefined });

  test('the name of a token lets it say the rule', () => {
    const after = done(bindingOf({ doc }, ['frame'], ['padding'], 'space'));
    expect(standing(after, { width: 500 }).rules.padding?.left).toBe(16);
    expect(tokensAt(after.root, ['gap'])).toBe('space');
    expect(bindingOf({ doc }, ['frame'], ['gap'], 'ink')).toBeUndefined();
    expect(bindingOf({ doc }, ['frame'], ['flow'], 'space')).toBeUndefined();
  });

  test('a number holds in place of a token, which keeps the other places and ranges as they were', () => {
    const after = done(settingOf(at(1000), 'frame', ['frame'], { gap: 10 }));
    expect(after.root.bound).toBeUndefined();
    expect(standing(after, { width: 1000 }).rules.gap).toBe(10);
    expect(standing(after, { width: 500 }).rules.gap).toBe(16);
  });
});
