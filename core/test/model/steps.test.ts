import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  applyStep,
  applySteps,
  FILL,
  findPart,
  fixed,
  invertStep,
  structureFromJson,
  walk,
  type Part,
  type RuleChange,
  type Rules,
  type Step,
  type Structure,
} from '@tinfold/core/model';
import { soundRoot } from '../support/arbitrary.js';
import { column, row, shape, structure, style, text } from '../support/build.js';

const change = fc.record<RuleChange>(
  {
    gap: fc.oneof(fc.integer({ min: -20, max: 60 }), fc.constantFrom('between' as const, null)),
    width: fc.constantFrom(FILL, fixed(120), null),
    minWidth: fc.option(fc.integer({ min: 0, max: 300 }), { nil: null }),
    maxWidth: fc.option(fc.integer({ min: 0, max: 300 }), { nil: null }),
    hidden: fc.constantFrom(true, null),
  },
  { requiredKeys: [] },
);

const tokenName = fc.constantFrom('space', 'type', 'room');

const step = (doc: Structure): fc.Arbitrary<Step> => {
  const ids = [...walk(doc.root)].map((p) => p.id);
  const id = fc.constantFrom(...ids);
  const topic = fc.constantFrom('width', 'gap', 'turn');
  const simple = fc.oneof(
    fc
      .tuple(id, change, fc.constantFrom({}, { below: 600 }, { wide: true as const }), fc.boolean())
      .map(([part, set, range, leaves]): Step => ({
        kind: 'setRules',
        ...range,
        parts: [
          { id: part, set, ...(leaves && Object.keys(range).length > 0 && { leave: ['gap'] as const }) },
        ],
      })),
    fc.tuple(id, fc.string()).map(([part, name]): Step => ({ kind: 'rename', id: part, name })),
    id.map((part): Step => ({ kind: 'replace', id: part, part: { ...shape(10, 10), id: part } })),
    fc
      .tuple(fc.subarray(ids, { minLength: 1 }), topic, fc.boolean())
      .map(([parts, of, open]): Step => ({ kind: 'answer', parts, topic: of, ...(open && { open }) })),
    fc
      .tuple(id, fc.constantFrom({}, { gap: 'space' }, { 'text.size': 'type' }))
      .map(([part, bound]): Step => ({ kind: 'bind', parts: [{ id: part, bound }] })),
    fc
      .tuple(id, fc.constantFrom('Sailing', null))
      .map(([part, pattern]): Step => ({ kind: 'pattern', parts: [{ id: part, pattern }] })),
    fc.tuple(id, fc.string({ minLength: 1, maxLength: 12 })).map(([part, words]): Step => ({
      kind: 'words',
      parts: [{ id: part, runs: [{ text: words, style: style(16) }] }],
    })),
    fc
      .tuple(id, fc.constantFrom('#0b6b6b', null), fc.option(fc.constant(['item']), { nil: undefined }))
      .map(([part, colour, source]): Step => ({
        kind: 'paint',
        parts: [
          {
            id: part,
            paint: colour === null ? null : { fill: { kind: 'solid', colour } },
            ...(source && { source }),
          },
        ],
      })),
    fc
      .tuple(tokenName, fc.option(fc.tuple(tokenName, fc.nat(40)), { nil: null }), fc.nat(2))
      .map(([name, to, at]): Step => ({
        kind: 'token',
        name,
        to: to && { kind: 'length', name: to[0], value: to[1] },
        at,
      })),
    fc.tuple(id, fc.nat(4), fc.nat(1e6)).map(([parent, at, n]): Step => ({
      kind: 'insert',
      parent,
      at,
      part: { ...text('new'), id: `new${n}` },
    })),
    id.map((part): Step => ({ kind: 'remove', id: part })),
    fc.tuple(id, id, fc.nat(4)).map(([part, parent, at]): Step => ({ kind: 'move', id: part, parent, at })),
    fc
      .tuple(fc.constantFrom(...[...walk(doc.root)].filter((p) => p.children.length > 0)), fc.nat(1e6))
      .chain(([parent, n]) =>
        fc
          .shuffledSubarray(
            parent.children.map((c) => c.id),
            { minLength: 1 },
          )
          .map((ids): Step => ({ kind: 'wrap', ids, container: { ...column({}), id: `wrap${n}` } })),
      ),
    id.map((part): Step => ({ kind: 'unwrap', id: part })),
  );
  return fc.oneof(
    simple,
    fc.array(simple, { maxLength: 3 }).map((steps): Step => ({ kind: 'several', steps })),
  );
};

const edited = soundRoot(2).chain((root) => {
  const doc = structure(root);
  return fc.tuple(fc.constant(doc), fc.array(step(doc), { minLength: 1, maxLength: 12 }));
});

/** The parts and tokens that a step names. */
function namedIn(step: Step): ReadonlySet<string> {
  if (step.kind === 'several') return new Set(step.steps.flatMap((s) => [...namedIn(s)]));
  if ('parts' in step) return new Set(step.parts.map((p) => (typeof p === 'string' ? p : p.id)));
  return new Set(step.kind === 'rename' ? [step.id] : []);
}

/** Whether a step says something of parts and leaves the tree and its tokens as they are. */
const onlySay = (step: Step): boolean =>
  step.kind === 'several' ? step.steps.every(onlySay) : 'parts' in step || step.kind === 'rename';

describe('steps', () => {
  test('what is applied and then taken back gives the document before', () => {
    fc.assert(
      fc.property(edited, ([start, steps]) => {
        const inverses: Step[] = [];
        let doc = start;
        for (const s of steps) {
          const result = applyStep(doc, s);
          if (!result.ok) continue;
          inverses.unshift(invertStep(doc, s));
          doc = result.doc;
        }
        const back = applySteps(doc, inverses);
        expect(back).toEqual({ ok: true, doc: start });
      }),
    );
  });

  test('two edits of one document come to the same in both orders, but where both are about the same', () => {
    let met = 0;
    const both = soundRoot(2).chain((root) => {
      const doc = structure(root);
      return fc.tuple(fc.constant(doc), step(doc), step(doc));
    });
    fc.assert(
      fc.property(both, ([start, mine, theirs]) => {
        const after = (first: Step, second: Step) => applySteps(start, [first, second]);
        const [here, there] = [after(theirs, mine), after(mine, theirs)];
        const apart = [...namedIn(mine)].every((n) => !namedIn(theirs).has(n));
        if (here.ok && there.ok && apart && onlySay(mine) && onlySay(theirs)) {
          met++;
          expect(here.doc).toEqual(there.doc);
        }
        // Put on top of what came meanwhile, an edit is taken back, and done again, as if it had been made there.
        const base = applyStep(start, theirs);
        const done = base.ok ? applyStep(base.doc, mine) : undefined;
        if (!base.ok || !done?.ok) return;
        const back = invertStep(base.doc, mine);
        expect(applyStep(done.doc, back)).toEqual({ ok: true, doc: base.doc });
        expect(applySteps(done.doc, [back, mine])).toEqual(done);
      }),
      { numRuns: 400 },
    );
    expect(met).toBeGreaterThan(20);
  });

  test('applying never changes the document given, and gives what its JSON gives', () => {
    fc.assert(
      fc.property(edited, ([start, steps]) => {
        const before = JSON.stringify(start);
        const first = applySteps(start, steps);
        const again = applySteps(
          JSON.parse(before) as Structure,
          JSON.parse(JSON.stringify(steps)) as Step[],
        );
        expect(JSON.stringify(start)).toBe(before);
        expect(JSON.stringify(again)).toBe(JSON.stringify(first));
      }),
    );
  });

  test('a step that changes nothing near them leaves other parts the same objects', () => {
    const [left, right] = [text('Marrow Isle'), text('Low Tarn')];
    const doc = structure(column({}, row({}, left), row({}, right)));
    const result = applyStep(doc, { kind: 'setRules', parts: [{ id: left.id, set: { width: fixed(80) } }] });
    if (!result.ok) throw new Error(result.reason);
    expect(findPart(result.doc.root, right.id)).toBe(right);
    expect(result.doc.root.children[1]).toBe(doc.root.children[1]);
  });

  const card = column({ minWidth: 240, maxWidth: 360 }, text('Marrow Isle'));
  const line = row({ width: FILL }, text('a', { width: FILL }), text('b', { width: FILL }));
  const doc = structure(column({}, card, line));

  test.each<[string, Step, RegExp]>([
    [
      'a min over the max',
      { kind: 'setRules', parts: [{ id: card.id, set: { minWidth: 400 } }] },
      /min width 400 is over its max 360/,
    ],
    [
      'a fit row whose children all fill',
      { kind: 'setRules', parts: [{ id: line.id, set: { width: { kind: 'fit' } } }] },
      /every child fills/,
    ],
    [
      'a grid without columns',
      { kind: 'setRules', parts: [{ id: card.id, set: { flow: 'grid' } }] },
      /grid without columns/,
    ],
    [
      'children of a free part without pins',
      { kind: 'setRules', parts: [{ id: card.id, set: { flow: 'free' } }] },
      /has no pin/,
    ],
    [
      'a size below zero',
      { kind: 'setRules', parts: [{ id: card.id, set: { width: fixed(-1) } }] },
      /below zero/,
    ],
    [
      'a number that is none',
      { kind: 'setRules', parts: [{ id: card.id, set: { gap: Number.NaN } }] },
      /not a finite number/,
    ],
    [
      'a gap on a text',
      { kind: 'setRules', parts: [{ id: card.children[0]?.id ?? '', set: { gap: 8 } }] },
      /only a container has/,
    ],
    ['an empty name', { kind: 'rename', id: card.id, name: '  ' }, /needs a name/],
    ['a part that is gone', { kind: 'rename', id: 'gone', name: 'x' }, /no part with the id gone/],
    ['an id that is taken', { kind: 'replace', id: card.id, part: line }, /is taken by another part/],
  ])('%s is refused with the reason', (_, wrong, reason) => {
    const result = applyStep(doc, wrong);
    expect(result.ok ? 'taken' : result.reason).toMatch(reason);
  });
});

describe('the document as JSON', () => {
  test('is read back as it was', () => {
    fc.assert(
      fc.property(soundRoot(3), (root) => {
        const before = structure(root);
        expect(structureFromJson(JSON.parse(JSON.stringify(before)))).toEqual(before);
      }),
    );
  });

  test.each([
    ['no object', 7],
    ['another version', { ...structure(column({})), version: 2 }],
    ['an unknown rule', structure({ ...column({}), rules: { wobble: 3 } as never })],
    [
      'a picture from the network',
      structure({
        ...shape(1, 1),
        content: { kind: 'picture', fit: 'fill', href: 'https://example.invalid/a.png' },
      }),
    ],
  ])('%s is refused with the place', (_, value) => {
    expect(() => structureFromJson(value)).toThrow(/not a Tin Fold structure: at /);
  });

  test('nesting without end is refused before it overflows', () => {
    let deep: unknown = {};
    for (let i = 0; i < 5000; i++) deep = { children: [deep] };
    expect(() => structureFromJson(deep)).toThrow(/nests deeper/);
  });
});

describe('a document with a problem of its own', () => {
  const twin = (id: string, rules: Rules): Part => ({ ...shape(40, 40, rules), id, name: 'Twin' });
  const broken = structure(column({}, twin('twin-1', { minWidth: 9, maxWidth: 4 }), twin('twin-2', {})));

  test('a step that gives another part of the same name the same problem is refused', () => {
    const result = applyStep(broken, {
      kind: 'setRules',
      parts: [{ id: 'twin-2', set: { minWidth: 9, maxWidth: 4 } }],
    });
    expect(result).toMatchObject({ ok: false, reason: expect.stringContaining('min width 9') as string });
  });

  test('a step that leaves the problem as it was, or with other numbers, is taken', () => {
    for (const set of [{ hidden: true }, { minWidth: 8 }])
      expect(applyStep(broken, { kind: 'setRules', parts: [{ id: 'twin-1', set }] }).ok).toBe(true);
  });

  test('is not taken in from outside', () => {
    const doc = structure(column({}, shape(10, 10), shape(10, 10)));
    const [a, b] = doc.root.children as [Part, Part];
    const same = { ...doc, root: { ...doc.root, children: [a, { ...b, id: a.id }] } };
    expect(() => structureFromJson(JSON.parse(JSON.stringify(same)))).toThrow(/is taken by another part/);
  });
});
