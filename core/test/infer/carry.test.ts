import { beforeAll, describe, expect, test } from 'vitest';
import { NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { carryOver, readStructure } from '@tinfold/core/infer';
import { applyStep, findPart, walk, type Part, type Step, type Structure } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { testMeasurer } from '../support/fonts.js';

const card = (n: number) =>
  `<rect id="card${n}" x="${24 + (n - 1) * 264}" y="80" width="240" height="120" rx="8" fill="#fff" stroke="#ccc"/><text id="name${n}" x="${40 + (n - 1) * 264}" y="112" font-size="18">Sailing ${n}</text><text id="time${n}" x="${40 + (n - 1) * 264}" y="140" font-size="14">Leaves at 1${n}:00</text>`;
const SOURCE = `<svg xmlns="http://www.w3.org/2000/svg" width="816" height="260" font-family="Inter"><rect width="816" height="260" fill="#eee"/><text id="title" x="24" y="48" font-size="24">Today</text><rect id="dot" x="780" y="30" width="8" height="8" fill="red"/>${[1, 2, 3].map(card).join('')}</svg>`;

describe('reading again keeps what the designer has decided', () => {
  let m: ShapedMeasurer;
  let asRead: Structure;
  beforeAll(async () => {
    m = await testMeasurer();
    asRead = read();
  });
  const read = (ignore: readonly string[] = []): Structure =>
    readStructure(openDrawing(SOURCE, 'Sailings').measure(m, { ...NO_DECISIONS, ignore }), m);
  const holding = (s: Structure, ...items: string[]): Part => {
    const holds = (p: Part): boolean => items.every((id) => [...walk(p)].some((q) => q.source.includes(id)));
    const found = [...walk(s.root)].filter(holds).at(-1);
    if (!found) throw new Error(`no part holds ${items.join()}`);
    return found;
  };
  const edited = (...steps: Step[]): Structure =>
    steps.reduce((doc, step) => {
      const result = applyStep(doc, step);
      if (!result.ok) throw new Error(result.reason);
      return result.doc;
    }, asRead);

  test('rules and names go to the parts of the same items, though others are gone', () => {
    const cardPart = holding(asRead, 'card2', 'name2');
    const row = holding(asRead, 'card1', 'card3');
    const doc = edited(
      {
        kind: 'setRules',
        parts: [{ id: cardPart.id, set: { padding: { top: 30, right: 16, bottom: 16, left: 16 } } }],
      },
      { kind: 'setRules', parts: [{ id: row.id, set: { gap: 40 } }] },
      { kind: 'rename', id: row.id, name: 'Sailings of today' },
    );
    const fresh = read(['dot']);
    const carried = carryOver(asRead, doc, fresh);
    expect(carried).toMatchObject({ kept: 3, lost: [] });
    expect(holding(carried.structure, 'card2', 'name2').rules.padding?.top).toBe(30);
    expect(holding(carried.structure, 'card1', 'card3')).toMatchObject({
      name: 'Sailings of today',
      rules: { gap: 40 },
    });
    expect(holding(carried.structure, 'card1', 'name1').rules.padding?.top).not.toBe(30);
  });

  test('what holds in a range of frames alone is put into that range, and nowhere else', () => {
    const row = holding(asRead, 'card1', 'card3');
    const parts = [{ id: row.id, set: { gap: 40 } }];
    const doc = edited({ kind: 'setRules', wide: true, parts }, { kind: 'setRules', below: 500, parts });
    const fresh = read(['dot']);
    const carried = carryOver(asRead, doc, fresh);
    expect(carried).toMatchObject({ kept: 2, lost: [] });
    const now = holding(carried.structure, 'card1', 'card3');
    expect(now.wide).toEqual({ gap: 40 });
    expect(now.below).toContainEqual({ width: 500, rules: { gap: 40 } });
    expect(now.rules.gap).toBe(holding(fresh, 'card1', 'card3').rules.gap);
  });

  test('a reading without edits is the fresh one', () => {
    const fresh = read(['dot']);
    expect(carryOver(asRead, asRead, fresh)).toEqual({ structure: fresh, kept: 0, lost: [] });
  });

  test('a rule that was taken away is taken away again', () => {
    const row = holding(asRead, 'card1', 'card3');
    const doc = edited({ kind: 'setRules', parts: [{ id: row.id, set: { gap: null } }] });
    expect(holding(carryOver(asRead, doc, read()).structure, 'card1', 'card3').rules.gap).toBeUndefined();
  });

  test('what finds no place is told by name', () => {
    const dot = holding(asRead, 'dot');
    const doc = edited({ kind: 'rename', id: dot.id, name: 'Red dot' });
    const { lost, structure } = carryOver(asRead, doc, read(['dot']));
    expect(lost).toEqual([expect.stringMatching(/^What you set on “Red dot” found no place/)]);
    expect(findPart(structure.root, structure.root.id)).toBeDefined();
  });
});
