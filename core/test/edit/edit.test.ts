import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  addSpacer,
  dissolve,
  duplicate,
  erase,
  gather,
  inShares,
  isRefusal,
  join,
  lockRatio,
  movedBy,
  moveInto,
  moveInward,
  pinOut,
  putBack,
  scaleSpaces,
  shift,
  splitBefore,
  standingOf,
  takeOut,
  type Answer,
  type Bench,
  type Change,
} from '@tinfold/core/edit';
import { Engine } from '@tinfold/core/layout';
import {
  applyStep,
  FILL,
  findPart,
  fixed,
  invertStep,
  parentOf,
  unsound,
  walk,
  type Part,
  type Structure,
} from '@tinfold/core/model';
import { soundRoot } from '../support/arbitrary.js';
import { column, named, row, shape, structure } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const measurer = await testMeasurer();
const bench = (...widths: number[]): Bench => ({ engine: new Engine(measurer), widths });

function taken(answer: Answer): Change {
  if (isRefusal(answer)) throw new Error(answer.reason);
  return answer;
}

function after(doc: Structure, answer: Answer): Structure {
  const result = applyStep(doc, taken(answer).step);
  if (!result.ok) throw new Error(result.reason);
  return result.doc;
}

const boxOf = (doc: Structure, id: string, width = doc.drawn.width) =>
  standingOf(doc, bench(width))[0]?.get(id);

/** A column of four boxes, the second and third nearer to each other. */
const fourBelow = (): Structure =>
  structure(
    named(
      'frame',
      column(
        { gap: 24, padding: { top: 16, right: 16, bottom: 16, left: 16 } },
        named('a', shape(200, 40)),
        named('b', shape(120, 40)),
        { ...named('c', shape(120, 40)), rules: { ...shape(120, 40).rules, gapBefore: 8 } },
        named('d', shape(200, 40)),
      ),
    ),
    400,
  );

describe('parts are put together', () => {
  test('as they lie, and nothing moves', () => {
    const doc = fourBelow();
    const change = taken(gather(doc, ['b', 'c'], bench(400)));
    expect(change.moved).toEqual([]);
    const held = findPart(after(doc, change).root, change.select ?? '');
    expect(held?.rules).toMatchObject({ flow: 'column', gap: 8 });
    expect(held?.children.map((c) => c.id)).toEqual(['b', 'c']);
  });

  test('in a row where they stand side by side in a free container', () => {
    const at = (id: string, left: number, top: number): Part => ({
      ...named(id, shape(50, 30)),
      rules: { ...shape(50, 30).rules, pin: { left, top } },
    });
    const doc = structure(
      named('frame', {
        ...column({ flow: 'free', height: fixed(200) }, at('a', 10, 20), at('c', 130, 20), at('b', 70, 20)),
      }),
      300,
    );
    const change = taken(gather(doc, ['a', 'b', 'c'], bench(300)));
    const held = findPart(after(doc, change).root, change.select ?? '');
    expect(change.moved).toEqual([]);
    expect(held?.rules).toMatchObject({ flow: 'row', gap: 10, pin: { left: 10, top: 20 } });
    expect(held?.children.map((c) => c.id)).toEqual(['a', 'b', 'c']);
  });

  test('where they do not line up it asks, and each answer can be taken', () => {
    const at = (id: string, left: number, top: number): Part => ({
      ...named(id, shape(50, 30)),
      rules: { ...shape(50, 30).rules, pin: { left, top } },
    });
    const doc = structure(
      named('frame', column({ flow: 'free', height: fixed(200) }, at('a', 10, 20), at('b', 40, 30))),
      300,
    );
    const answer = gather(doc, ['a', 'b'], bench(300));
    if (!isRefusal(answer)) throw new Error('It did not ask.');
    expect(answer.reason).toContain('do not line up');
    expect(answer.instead.length).toBeGreaterThan(2);
    const free = answer.instead.find((c) => c.label.includes('free'));
    expect(free?.moved).toEqual([]);
    for (const change of answer.instead) expect(applyStep(doc, change.step).ok).toBe(true);
  });

  test('parts of two containers are refused with what to do', () => {
    const doc = structure(
      named('frame', column({}, named('x', row({}, named('a', shape(10, 10)))), named('b', shape(10, 10)))),
      300,
    );
    const answer = gather(doc, ['a', 'b'], bench(300));
    expect(isRefusal(answer) && answer.reason).toContain('take the others out first');
  });
});

describe('a container is dissolved', () => {
  test('and everything stays: gaps and paddings go to its children and what follows', () => {
    const inner = named(
      'inner',
      column(
        { gap: 6, padding: { top: 10, right: 0, bottom: 12, left: 0 } },
        named('b', shape(90, 20)),
        named('c', shape(90, 20)),
      ),
    );
    const doc = structure(
      named('frame', column({ gap: 24 }, named('a', shape(90, 20)), inner, named('d', shape(90, 20)))),
      300,
    );
    const change = taken(dissolve(doc, 'inner', bench(300)));
    expect(change.moved).toEqual([]);
    const now = after(doc, change);
    expect(now.root.children.map((c) => c.id)).toEqual(['a', 'b', 'c', 'd']);
    expect(boxOf(now, 'd')).toEqual(boxOf(doc, 'd'));
  });

  test('an only child hands its flow to what held it', () => {
    const inner = named(
      'inner',
      row(
        { gap: 6, width: FILL, padding: { top: 5, right: 5, bottom: 5, left: 5 } },
        named('b', shape(20, 20)),
        named('c', shape(20, 20)),
      ),
    );
    const doc = structure(
      named('frame', column({ padding: { top: 1, right: 2, bottom: 3, left: 4 } }, inner)),
      300,
    );
    const change = taken(dissolve(doc, 'inner', bench(300)));
    expect(change.moved).toEqual([]);
    expect(after(doc, change).root.rules).toMatchObject({
      flow: 'row',
      gap: 6,
      padding: { top: 6, right: 7, bottom: 8, left: 9 },
    });
  });
});

describe('a part leaves the flow and comes back', () => {
  test('pinned to the edges that it is near to, and nothing moves either time', () => {
    const doc = fourBelow();
    const out = taken(pinOut(doc, 'b', bench(400)));
    expect(out.moved).toEqual([]);
    const apart = after(doc, out);
    expect(findPart(apart.root, 'b')?.rules.pin).toEqual({ left: 16, top: 80 });
    const back = taken(putBack(apart, 'b', bench(400)));
    expect(back.moved).toEqual([]);
    expect(after(apart, back).root.children.map((c) => c.id)).toEqual(['a', 'b', 'c', 'd']);
  });
});

describe('parts are moved, copied and taken away', () => {
  test('out of a container, into another, among siblings', () => {
    const inner = named('inner', row({ gap: 6 }, named('b', shape(20, 20)), named('c', shape(20, 20))));
    const doc = structure(named('frame', column({ gap: 24 }, named('a', shape(90, 20)), inner)), 300);
    const out = after(doc, takeOut(doc, 'b', bench(300)));
    expect(parentOf(out.root, 'b')?.id).toBe('frame');
    const into = after(out, moveInto(out, 'a', 'inner', bench(300), 0));
    expect(findPart(into.root, 'inner')?.children.map((c) => c.id)).toEqual(['a', 'c']);
    const moved = after(into, shift(into, 'c', -1, bench(300)));
    expect(findPart(moved.root, 'inner')?.children.map((c) => c.id)).toEqual(['c', 'a']);
    expect(isRefusal(shift(moved, 'c', -1, bench(300)))).toBe(true);
    expect(isRefusal(moveInward(doc, 'inner', bench(300)))).toBe(true);
    const two = after(doc, duplicate(doc, 'inner', bench(300)));
    const second = two.root.children[2]?.id ?? '';
    expect(parentOf(after(two, moveInward(two, second, bench(300))).root, second)?.id).toBe('inner');
  });

  test('a copy has ids of its own, and what lies in another part that goes is not taken twice', () => {
    const inner = named('inner', row({ gap: 6 }, named('b', shape(20, 20)), named('c', shape(20, 20))));
    const doc = structure(named('frame', column({ gap: 24 }, inner)), 300);
    const twice = after(doc, duplicate(doc, 'inner', bench(300)));
    expect(twice.root.children.map((c) => c.children.length)).toEqual([2, 2]);
    const ids = [...walk(twice.root)].map((p) => p.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(after(twice, erase(twice, ['inner', 'b'], bench(300))).root.children).toHaveLength(1);
  });

  test('a container is split and joined again, and nothing moves', () => {
    const doc = structure(
      named(
        'frame',
        column(
          { gap: 24 },
          named(
            'inner',
            column(
              { gap: 6 },
              named('a', shape(20, 20)),
              named('b', shape(20, 20)),
              named('c', shape(20, 20)),
            ),
          ),
        ),
      ),
      300,
    );
    const cut = taken(splitBefore(doc, 'b', bench(300)));
    expect(cut.moved).toEqual([]);
    const two = after(doc, cut);
    expect(two.root.children.map((c) => c.children.length)).toEqual([1, 2]);
    const one = taken(
      join(
        two,
        two.root.children.map((c) => c.id),
        bench(300),
      ),
    );
    expect(one.moved).toEqual([]);
    expect(after(two, one).root.children.map((c) => c.children.length)).toEqual([3]);
  });

  test('a spacer takes the room that is left', () => {
    const doc = structure(
      named('frame', row({ gap: 4 }, named('a', shape(20, 20)), named('b', shape(20, 20)))),
      300,
    );
    const change = taken(addSpacer(doc, 'a', bench(300)));
    expect(boxOf(after(doc, change), 'b')).toMatchObject({ x: 280 });
    expect(change.moved[0]).toMatchObject({ id: 'b', width: 300 });
  });
});

describe('measures', () => {
  test('px become shares and scale with what holds them, and come back', () => {
    const doc = structure(
      named(
        'frame',
        column(
          {},
          named(
            'box',
            row(
              { width: fixed(200), height: fixed(100) },
              {
                ...named('dot', shape(50, 20)),
                rules: { ...shape(50, 20).rules, pin: { left: 20, top: 10 } },
              },
            ),
          ),
        ),
      ),
      400,
    );
    const change = taken(inShares(doc, 'box', bench(400)));
    expect(change.moved).toEqual([]);
    const shared = after(doc, change);
    expect(boxOf(shared, 'dot', 800)).toMatchObject({ x: 40, width: 100 });
    expect(after(shared, inShares(shared, 'box', bench(400), true)).root).toEqual(doc.root);
  });

  test('a ratio is kept', () => {
    const doc = structure(
      named(
        'frame',
        column(
          { align: 'stretch' },
          { ...named('a', shape(200, 50)), rules: { width: FILL, height: fixed(50) } },
        ),
      ),
      200,
    );
    const kept = after(doc, lockRatio(doc, 'a', bench(200)));
    expect(boxOf(kept, 'a', 400)).toMatchObject({ width: 400, height: 100 });
  });

  test('gaps and paddings are scaled together', () => {
    const doc = fourBelow();
    const halved = after(doc, scaleSpaces(doc, 'frame', 'gaps', 0.5, bench(400)));
    expect(halved.root.rules.gap).toBe(12);
    expect(findPart(halved.root, 'c')?.rules.gapBefore).toBe(4);
    const padded = after(doc, scaleSpaces(doc, 'frame', 'padding', 2, bench(400)));
    expect(padded.root.rules.padding).toEqual({ top: 32, right: 32, bottom: 32, left: 32 });
  });
});

test('in random trees every operation gives a sound document, tells what it moved, and can be taken back', () => {
  const pick = fc.nat(1e6);
  fc.assert(
    fc.property(soundRoot(3), pick, pick, pick, (root, a, b, which) => {
      const doc = structure(root, 400);
      const on = bench(400);
      const ids = [...walk(root)].map((p) => p.id);
      const [one, two] = [ids[a % ids.length] as string, ids[b % ids.length] as string];
      const siblings = (parentOf(root, one)?.children ?? []).map((c) => c.id).slice(0, 1 + (b % 3));
      const operations: (() => Answer)[] = [
        () => gather(doc, siblings, on),
        () => dissolve(doc, one, on),
        () => takeOut(doc, one, on),
        () => moveInto(doc, one, two, on),
        () => shift(doc, one, 1, on),
        () => duplicate(doc, one, on),
        () => erase(doc, [one, two], on),
        () => pinOut(doc, one, on),
        () => putBack(doc, one, on),
        () => splitBefore(doc, one, on),
        () => join(doc, siblings, on),
        () => inShares(doc, one, on),
        () => scaleSpaces(doc, one, 'gaps', 0.5, on),
      ];
      const answer = (operations[which % operations.length] as () => Answer)();
      if (isRefusal(answer)) {
        expect(answer.reason).toMatch(/\.$/);
        return;
      }
      const result = applyStep(doc, answer.step);
      if (!result.ok) throw new Error(result.reason);
      expect(unsound(result.doc, doc)).toBeUndefined();
      expect(movedBy(standingOf(doc, on), result.doc, on)).toEqual(answer.moved);
      const back = applyStep(result.doc, invertStep(doc, answer.step));
      expect(back.ok && back.doc).toEqual(doc);
    }),
    { numRuns: 300 },
  );
});
