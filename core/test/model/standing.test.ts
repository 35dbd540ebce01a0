import { describe, expect, test } from 'vitest';
import {
  applyStep,
  breakpoints,
  checkAll,
  FILL,
  findPart,
  fixed,
  invertStep,
  pad,
  standing,
  structureFromJson,
  type Part,
  type Structure,
} from '@tinfold/core/model';
import { column, row, shape, structure, text } from '../support/build.js';

const withBelow = (part: Part, below: NonNullable<Part['below']>): Part => ({ ...part, below });

const cards = withBelow(row({ gap: 24 }, shape(100, 40), shape(100, 40)), [
  { width: 900, rules: { gap: 16 } },
  { width: 600, rules: { flow: 'column', gap: null } },
]);
const screen: Structure = structure(column({}, cards));
const gapAt = (doc: Structure, width: number) => standing(doc, { width }).children[0]?.rules;

describe('a structure as it stands at a width', () => {
  test('overrides cascade from the widest breakpoint down', () => {
    expect(gapAt(screen, 900)).toMatchObject({ flow: 'row', gap: 24 });
    expect(gapAt(screen, 899.9)).toMatchObject({ flow: 'row', gap: 16 });
    expect(gapAt(screen, 320)).toEqual({ flow: 'column' });
    expect(breakpoints(screen)).toEqual([900, 600]);
  });

  test('a document without breakpoints, tokens or directions is its own tree', () => {
    const plain = structure(column({}, shape(1, 1)));
    expect(standing(plain, { width: 500 })).toBe(plain.root);
  });

  test('what an edit did not touch stays the same object', () => {
    const doc = structure(
      column({}, cards, withBelow(shape(5, 5), [{ width: 600, rules: { width: FILL } }])),
    );
    const before = standing(doc, { width: 320 });
    const last = doc.root.children[1];
    const result = applyStep(doc, {
      kind: 'setRules',
      parts: [{ id: last?.id ?? '', set: { height: fixed(9) } }],
    });
    expect(result.ok && standing(result.doc, { width: 320 }).children[0]).toBe(before.children[0]);
  });

  test('tokens are worth what they are in the range, and reach gaps, paddings, sizes and type', () => {
    const doc: Structure = {
      ...structure(
        column(
          {},
          { ...row({ gap: 1, padding: pad(2) }), bound: { gap: 'space', 'padding.left': 'space' } },
          { ...text('Low Tarn'), bound: { 'text.size': 'type', 'text.colour': 'sea' } },
        ),
      ),
      tokens: [
        { kind: 'length', name: 'space', value: 32, below: [{ width: 700, value: 12 }] },
        { kind: 'length', name: 'type', value: 20, below: [{ width: 700, value: 15 }] },
        { kind: 'colour', name: 'sea', value: '#0a4f55' },
      ],
    };
    const [wide, narrow] = [800, 500].map((width) => standing(doc, { width }).children);
    expect(wide?.[0]?.rules).toMatchObject({ gap: 32, padding: { left: 32, top: 2 } });
    expect(narrow?.[0]?.rules).toMatchObject({ gap: 12, padding: { left: 12, top: 2 } });
    const content = narrow?.[1]?.content;
    expect(content?.kind === 'text' && content.runs[0]?.style).toMatchObject({ size: 15, colour: '#0a4f55' });
  });

  test('paddings keep clear of the device where a part asks for it', () => {
    const doc = structure(column({ padding: pad(8), safeArea: ['top', 'bottom'] }));
    const insets = { top: 44, right: 30, bottom: 4, left: 30 };
    expect(standing(doc, { width: 390, insets }).rules.padding).toEqual({
      top: 44,
      right: 8,
      bottom: 8,
      left: 8,
    });
  });

  test('a direction reaches all below, unless one says another', () => {
    const doc = structure(column({}, row({}, shape(1, 1)), row({ direction: 'ltr' }, shape(1, 1))));
    const root = standing(doc, { width: 500, direction: 'rtl' });
    expect(root.children.map((c) => [c.rules.direction, c.children[0]?.rules.direction])).toEqual([
      ['rtl', 'rtl'],
      ['ltr', undefined],
    ]);
  });
});

describe('overrides as steps', () => {
  const id = cards.id;

  test('are set below a width, and taken back whole', () => {
    const step = { kind: 'setRules' as const, below: 600, parts: [{ id, set: { gap: 4 } }] };
    const result = applyStep(screen, step);
    if (!result.ok) throw new Error(result.reason);
    expect(gapAt(result.doc, 500)?.gap).toBe(4);
    expect(gapAt(result.doc, 800)?.gap).toBe(16);
    const back = applyStep(result.doc, invertStep(screen, step));
    expect(back.ok && gapAt(back.doc, 500)).toEqual({ flow: 'column' });
  });

  test('those of frames that are wider than high hold over the others, and need a height', () => {
    const step = { kind: 'setRules' as const, wide: true as const, parts: [{ id, set: { gap: 2 } }] };
    const result = applyStep(screen, step);
    if (!result.ok) throw new Error(result.reason);
    const gapIn = (width: number, height?: number) =>
      findPart(standing(result.doc, { width, ...(height !== undefined && { height }) }), id)?.rules.gap;
    expect([gapIn(1000), gapIn(1000, 1000), gapIn(1000, 999), gapIn(500, 400)]).toEqual([24, 24, 2, 2]);
    const back = applyStep(result.doc, invertStep(screen, step));
    expect(back.ok && back.doc).toEqual(screen);
    const wrong = applyStep(screen, { ...step, parts: [{ id, set: { minWidth: 400, maxWidth: 300 } }] });
    expect(!wrong.ok && wrong.reason).toMatch(/^Where the frame is wider than high: .*over its max 300/);
  });

  test('one that says nothing any more is gone', () => {
    const result = applyStep(screen, {
      kind: 'setRules',
      below: 900,
      parts: [{ id, set: {}, leave: ['gap'] }],
    });
    expect(result.ok && breakpoints(result.doc)).toEqual([600]);
  });

  test('one that cannot stand is refused with the width', () => {
    const result = applyStep(screen, {
      kind: 'setRules',
      below: 700,
      parts: [{ id, set: { minWidth: 400, maxWidth: 300 } }],
    });
    expect(!result.ok && result.reason).toMatch(/^Below 700: .*min width 400 is over its max 300/);
    expect(checkAll(screen)).toEqual([]);
  });

  test('go through JSON', () => {
    const doc = { ...screen, tokens: [{ kind: 'length' as const, name: 'space', value: 8 }] };
    expect(structureFromJson(JSON.parse(JSON.stringify(doc)))).toEqual(doc);
  });
});
