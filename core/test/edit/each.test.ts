import { beforeAll, describe, expect, test } from 'vitest';
import { isRefusal, onEach, pinOut, type Bench } from '@tinfold/core/edit';
import { Engine, reflow } from '@tinfold/core/layout';
import { applyStep, fixed, pad, type Part, type Structure } from '@tinfold/core/model';
import { column, row, shape, structure, text } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const card = (title: string, first: Part): Part => ({
  ...column({ padding: pad(12), gap: 8, width: fixed(200) }, first, text(title)),
  pattern: 'card',
});

describe('one operation at all copies', () => {
  let bench: Bench;
  beforeAll(async () => {
    bench = { engine: new Engine(await testMeasurer()), widths: [800] };
  });
  const after = (doc: Structure, answer: ReturnType<typeof onEach>): Structure => {
    if (isRefusal(answer)) throw new Error(answer.reason);
    const result = applyStep(doc, answer.step);
    if (!result.ok) throw new Error(result.reason);
    return result.doc;
  };

  test('all copies go the way of the first, and nothing has moved', () => {
    const cards = ['Marrow Isle', 'Low Tarn', 'Nether Quay'].map((t) => card(t, shape(20, 20)));
    const doc = structure(row({ gap: 16, width: fixed(800) }, ...cards));
    const places = cards.map((c) => c.children[0]?.id ?? '');
    const answer = onEach(doc, places, bench, pinOut);
    expect(isRefusal(answer) ? answer.reason : answer.moved).toEqual([]);
    // Of a hundred copies as few trees are made as of one.
    expect(isRefusal(answer) ? '' : answer.step.kind).toBe('setRules');
    const now = after(doc, answer);
    const rules = now.root.children.map((c) => c.children.map((p) => p.rules));
    expect(rules[0]?.[0]?.pin).toEqual({ left: 12, top: 12 });
    expect(rules).toEqual([rules[0], rules[0], rules[0]]);
    const stands = (d: Structure) => reflow(d.root, 800, bench.engine).parts;
    for (const [id, box] of stands(now)) expect(box).toEqual(stands(doc).get(id));
  });

  test('an operation that has one way only is done at every copy', () => {
    const cards = ['Marrow Isle', 'Low Tarn', 'Nether Quay'].map((t) => card(t, shape(20, 20)));
    const doc = structure(row({ gap: 16, width: fixed(800) }, ...cards));
    const answer = onEach(
      doc,
      cards.map((c) => c.id),
      bench,
      (_, id) => ({
        label: 'Gap',
        step: { kind: 'setRules', parts: [{ id, set: { gap: 12 } }] },
        moved: [],
        notes: [],
      }),
    );
    expect(after(doc, answer).root.children.map((c) => c.rules.gap)).toEqual([12, 12, 12]);
  });

  test('copies in one container, which each would set, are done one after the other', () => {
    const shapes = [shape(20, 20), shape(20, 20), shape(20, 20)];
    const doc = structure(row({ gap: 16, width: fixed(800) }, ...shapes, text('Marrow Isle')));
    const answer = onEach(
      doc,
      shapes.map((s) => s.id),
      bench,
      pinOut,
    );
    const now = after(doc, answer);
    expect(now.root.children.slice(0, 3).map((c) => c.rules.pin?.left)).toEqual([0, 36, 72]);
  });

  test('a copy that refuses what the first takes stays as it is, and that is said', () => {
    const pinned = { ...shape(20, 20), rules: { ...shape(20, 20).rules, pin: { left: 12, top: 12 } } };
    const cards = [card('Marrow Isle', shape(20, 20)), card('Low Tarn', pinned)];
    const doc = structure(row({ gap: 16, width: fixed(800) }, ...cards));
    const answer = onEach(
      doc,
      cards.map((c) => c.children[0]?.id ?? ''),
      bench,
      pinOut,
    );
    expect(isRefusal(answer) ? [] : answer.notes).toContain(
      'One of the copies is made otherwise and stays as it is.',
    );
    expect(after(doc, answer).root.children[1]).toBe(cards[1]);
  });
});
