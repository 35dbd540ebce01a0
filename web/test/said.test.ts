import { describe, expect, test } from 'vitest';
import {
  applyStep,
  findPart,
  ruleOf,
  standing,
  type Range,
  type Step,
  type Structure,
} from '@tinfold/core/model';
import { column, named, shape, structure } from '../../core/test/support/build.js';
import { holdingEverywhere, leavingRange, saidIn, settingOf } from '../src/workbench/said';

const done = (doc: Structure, step: Step | undefined): Structure => {
  const result = step && applyStep(doc, step);
  if (!result?.ok) throw new Error(result ? result.reason : 'There is no step.');
  return result.doc;
};
const gapAt = (doc: Structure, width: number) => ruleOf(standing(doc, { width }).rules, 'gap');

const doc = structure(named('frame', column({ gap: 24 }, shape(10, 10), shape(10, 10))), 1000);
const at = (frameWidth: number, holds?: Range, on = doc, frameHeight?: number) => ({
  doc: on,
  frameWidth,
  frameHeight,
  holds,
});

describe('where an edit holds', () => {
  test('everywhere, unless the designer says from here down', () => {
    expect(gapAt(done(doc, settingOf(at(500), 'frame', ['frame'], { gap: 8 })), 1000)).toBe(8);
    const below = done(doc, settingOf(at(500, 600), 'frame', ['frame'], { gap: 8 }));
    expect([gapAt(below, 1000), gapAt(below, 599)]).toEqual([24, 8]);
  });

  test('what is seen is what is changed: a rule that is said below a breakpoint is changed there', () => {
    const below = done(doc, settingOf(at(500, 600), 'frame', ['frame'], { gap: 8 }));
    const again = done(below, settingOf(at(400, undefined, below), 'frame', ['frame'], { gap: 4 }));
    expect([gapAt(again, 1000), gapAt(again, 500)]).toEqual([24, 4]);
    const wide = done(again, settingOf(at(900, undefined, again), 'frame', ['frame'], { gap: 30 }));
    expect([gapAt(wide, 1000), gapAt(wide, 500)]).toEqual([30, 4]);
  });

  test('in frames that are wider than high, where that is seen or asked for', () => {
    const turned = done(doc, settingOf(at(900, 'wide', doc, 400), 'frame', ['frame'], { gap: 8 }));
    expect(turned.root.wide).toEqual({ gap: 8 });
    expect(saidIn(turned.root, ['gap'], { width: 900, height: 400 })).toBe('wide');
    expect(saidIn(turned.root, ['gap'], { width: 900 })).toBeUndefined();
    const again = done(turned, settingOf(at(900, undefined, turned, 400), 'frame', ['frame'], { gap: 4 }));
    expect([again.root.wide, again.root.rules.gap]).toEqual([{ gap: 4 }, 24]);
    const frame = { width: 900, height: 400 };
    expect(done(again, leavingRange(again.root, ['frame'], ['gap'], frame))).toEqual(doc);
    const everywhere = done(again, holdingEverywhere(again.root, frame));
    expect([everywhere.root.wide, everywhere.root.rules.gap]).toEqual([undefined, 4]);
  });

  test('a rule is left to what wider frames have, or holds everywhere', () => {
    const below = done(doc, settingOf(at(500, 600), 'frame', ['frame'], { gap: 8 }));
    const part = findPart(below.root, 'frame') ?? below.root;
    expect(saidIn(part, ['gap'], { width: 500 })).toBe(600);
    expect(leavingRange(part, ['frame'], ['padding'], { width: 500 })).toBeUndefined();
    expect(done(below, leavingRange(part, ['frame'], ['gap'], { width: 500 }))).toEqual(doc);
    const everywhere = done(below, holdingEverywhere(part, { width: 500 }));
    expect([gapAt(everywhere, 1000), gapAt(everywhere, 300)]).toEqual([8, 8]);
    expect(everywhere.root.below).toBeUndefined();
    expect(holdingEverywhere(doc.root, { width: 500 })).toBeUndefined();
  });
});
