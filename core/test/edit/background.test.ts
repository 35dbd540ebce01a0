import { describe, expect, test } from 'vitest';
import { asBackground, isRefusal, standIn, standingOf, type Answer, type Bench } from '@tinfold/core/edit';
import { Engine } from '@tinfold/core/layout';
import {
  applyStep,
  FILL,
  findPart,
  fixed,
  invertStep,
  standing,
  type Part,
  type Structure,
} from '@tinfold/core/model';
import { column, named, shape, structure } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const bench: Bench = { engine: new Engine(await testMeasurer()), widths: [1000] };
const painted = (part: Part): Part => ({ ...part, paint: { fill: { kind: 'solid', colour: '#dfe7e4' } } });
const boxes = (doc: Structure) => Object.fromEntries(standingOf(doc, bench)[0] ?? []);

function done(doc: Structure, answer: Answer): Structure {
  if (isRefusal(answer)) throw new Error(answer.reason);
  const result = applyStep(doc, answer.step);
  if (!result.ok) throw new Error(result.reason);
  expect(applyStep(result.doc, invertStep(doc, answer.step))).toEqual({ ok: true, doc });
  return result.doc;
}

describe('a shape as background', () => {
  const card = column(
    { flow: 'free', width: fixed(300), height: fixed(120) },
    painted(named('ground', shape(300, 120, { pin: { left: 0, top: 0 } }))),
    named('mark', shape(40, 40, { pin: { left: 16, top: 16 } })),
  );

  test('of the container that is as large: it shows what the shape showed and stands for it', () => {
    const doc = structure(column({}, named('card', card)));
    const after = done(doc, asBackground(doc, 'ground', bench));
    const now = findPart(after.root, 'card');
    expect(now?.paint).toEqual({ fill: { kind: 'solid', colour: '#dfe7e4' } });
    expect(now?.source).toContain(findPart(doc.root, 'ground')?.source[0]);
    expect(findPart(after.root, 'ground')).toBeUndefined();
    expect(boxes(after)['mark']).toEqual(boxes(doc)['mark']);
  });

  test('of what lies on it, in a container of their own with paddings up to its edges', () => {
    const doc = structure(
      named(
        'page',
        column(
          { flow: 'free', width: FILL, height: fixed(400) },
          painted(named('ground', shape(300, 120, { pin: { left: 100, top: 50 } }))),
          named('one', shape(60, 30, { pin: { left: 120, top: 70 } })),
          named('two', shape(60, 30, { pin: { left: 120, top: 108 } })),
          named('far', shape(60, 30, { pin: { left: 700, top: 70 } })),
        ),
      ),
    );
    const answer = asBackground(doc, 'ground', bench);
    const after = done(doc, answer);
    const held = findPart(after.root, isRefusal(answer) ? '' : (answer.select ?? ''));
    expect(held?.children.map((c) => c.id)).toEqual(['one', 'two']);
    expect(held?.rules).toMatchObject({ flow: 'column', gap: 8, padding: { top: 20, left: 20 } });
    for (const id of ['one', 'two', 'far']) expect(boxes(after)[id]).toEqual(boxes(doc)[id]);
    expect(boxes(after)[held?.id ?? '']).toEqual(boxes(doc)['ground']);
  });

  test('nothing on it, or no shape: says so', () => {
    const doc = structure(column({}, painted(named('ground', shape(9, 9))), named('plain', shape(5, 5))));
    expect(asBackground(doc, 'ground', bench)).toMatchObject({
      reason: expect.stringContaining('Nothing lies on') as string,
    });
    expect(asBackground(doc, 'plain', bench)).toMatchObject({
      reason: expect.stringContaining('Choose a shape') as string,
    });
  });
});

describe('one part for another', () => {
  const doc = structure(column({}, named('links', shape(200, 20)), named('menu', shape(24, 24))));

  test('each is hidden where the other is shown', () => {
    const after = done(doc, standIn(doc, ['links', 'menu'], 600, bench));
    const shown = (width: number) =>
      standing(after, { width })
        .children.filter((c) => !c.rules.hidden)
        .map((c) => c.id);
    expect([shown(1000), shown(599)]).toEqual([['links'], ['menu']]);
  });

  test('asks for two that lie apart', () => {
    expect(isRefusal(standIn(doc, ['links'], 600, bench))).toBe(true);
    expect(isRefusal(standIn(doc, [doc.root.id, 'menu'], 600, bench))).toBe(true);
  });
});
