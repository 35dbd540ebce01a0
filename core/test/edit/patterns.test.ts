import { beforeAll, describe, expect, test } from 'vitest';
import {
  breakAway,
  declarePattern,
  isRefusal,
  oneLess,
  oneMore,
  type Answer,
  type Bench,
} from '@tinfold/core/edit';
import { Engine } from '@tinfold/core/layout';
import { applyStep, FILL, fixed, invertStep, pad, type Part, type Structure } from '@tinfold/core/model';
import { column, row, shape, structure, text } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const card = (title: string, more: readonly Part[] = []): Part => ({
  ...column({ padding: pad(12), gap: 8, width: FILL }, text(title), text('Runs daily'), ...more),
  name: title,
});

describe('patterns', () => {
  let bench: Bench;
  beforeAll(async () => {
    bench = { engine: new Engine(await testMeasurer()), widths: [800] };
  });
  const cards = ['Marrow Isle', 'Low Tarn', 'Nether Quay'].map((t) => card(t));
  const doc = structure(row({ gap: 16, width: fixed(800) }, ...cards));
  const done = (answer: Answer, before: Structure): Structure => {
    if (isRefusal(answer)) throw new Error(answer.reason);
    const result = applyStep(before, answer.step);
    if (!result.ok) throw new Error(result.reason);
    const back = applyStep(result.doc, invertStep(before, answer.step));
    expect(back).toEqual({ ok: true, doc: before });
    return result.doc;
  };
  const patterns = ({ root }: Structure) => root.children.map((c) => c.pattern);
  const ids = cards.map((c) => c.id);

  test('parts that are made alike become copies of one, and nothing moves', () => {
    const answer = declarePattern(doc, ids, bench);
    expect(isRefusal(answer) ? answer.reason : answer.moved).toEqual([]);
    expect(patterns(done(answer, doc))).toEqual(['Marrow Isle', 'Marrow Isle', 'Marrow Isle']);
  });

  test('what hangs on one of them alone, words and numbers may differ; another make-up is refused with the difference', () => {
    const badge = { ...shape(8, 8), rules: { pin: { top: 0, right: 0 } } };
    const other = structure(row({}, card('A', [badge]), card('B')));
    expect(
      patterns(
        done(
          declarePattern(
            other,
            other.root.children.map((c) => c.id),
            bench,
          ),
          other,
        ),
      ),
    ).toEqual(['A', 'A']);
    const unlike = structure(row({}, card('A'), card('B', [shape(8, 8)])));
    const refused = declarePattern(
      unlike,
      unlike.root.children.map((c) => c.id),
      bench,
    );
    expect(isRefusal(refused) && refused.reason).toContain('“B” holds 3 parts, “A” 2');
  });

  test('parts of different containers, and one alone, are refused', () => {
    const deep = structure(column({}, card('A'), column({}, card('B'))));
    const [a, inner] = deep.root.children;
    const refused = declarePattern(deep, [a?.id ?? '', inner?.children[0]?.id ?? ''], bench);
    expect(isRefusal(refused) && refused.reason).toContain('one container');
    expect(isRefusal(declarePattern(doc, [ids[0] ?? ''], bench))).toBe(true);
  });

  test('a copy breaks away, also from a part in it; the last one left is no pattern any more', () => {
    const all = done(declarePattern(doc, ids, bench), doc);
    const inFirst = all.root.children[0]?.children[1]?.id ?? '';
    const two = done(breakAway(all, inFirst, bench), all);
    expect(patterns(two)).toEqual([undefined, 'Marrow Isle', 'Marrow Isle']);
    const none = done(breakAway(two, ids[1] ?? '', bench), two);
    expect(patterns(none)).toEqual([undefined, undefined, undefined]);
    expect(isRefusal(breakAway(none, ids[1] ?? '', bench))).toBe(true);
  });

  test('one more copy stands after its own, one less is gone', () => {
    const all = done(declarePattern(doc, ids, bench), doc);
    const more = done(oneMore(all, all.root.children[1]?.children[0]?.id ?? '', bench), all);
    expect(patterns(more)).toEqual(Array(4).fill('Marrow Isle'));
    expect(new Set(more.root.children.map((c) => c.id)).size).toBe(4);
    expect(more.root.children[2]?.children.map((c) => c.name)).toEqual(
      more.root.children[1]?.children.map((c) => c.name),
    );
    const less = done(oneLess(more, ids[1] ?? '', bench), more);
    expect(less.root.children.map((c) => c.id)).not.toContain(ids[1]);
    expect(isRefusal(oneMore(doc, ids[0] ?? '', bench))).toBe(true);
  });
});
