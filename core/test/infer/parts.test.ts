import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import type { Item } from '@tinfold/core/drawing';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { containmentOf, type Held } from '../../src/drawing/index.js';
import { isOffGrid, snapItems } from '../../src/infer/snap.js';
import { commonest, gapsOf, slabs } from '../../src/infer/stack.js';
import { breakingRange, roundest } from '../../src/infer/widths.js';
import { style, words } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const box = (id: string, x: number, y: number, width: number, height: number): Item => ({
  kind: 'shape',
  id,
  box: { x, y, width, height },
  groups: [],
  paint: { fill: { kind: 'solid', colour: '#eee' } },
});
const nest = (held: readonly Held[]): unknown[] =>
  held.map((h) => (h.children.length > 0 ? [h.item.id, nest(h.children)] : h.item.id));

describe('containment', () => {
  test('the smallest box that was painted before holds an item', () => {
    const items = [
      box('frame', 0, 0, 400, 300),
      box('card', 20, 20, 200, 100),
      box('dot', 30, 30, 10, 10),
      box('aside', 240, 20, 100, 100),
    ];
    expect(nest(containmentOf(items).held)).toEqual([['frame', [['card', ['dot']], 'aside']]]);
  });

  test('what was painted later holds nothing that lies under it', () => {
    expect(nest(containmentOf([box('dot', 30, 30, 10, 10), box('card', 20, 20, 200, 100)]).held)).toEqual([
      'dot',
      'card',
    ]);
  });

  test('of equal boxes the earlier holds the later, and a rule holds nothing', () => {
    expect(nest(containmentOf([box('a', 0, 0, 50, 50), box('b', 0, 0, 50, 50)]).held)).toEqual([
      ['a', ['b']],
    ]);
    expect(nest(containmentOf([box('rule', 0, 0, 50, 1), box('dot', 10, 0, 1, 1)]).held)).toEqual([
      'rule',
      'dot',
    ]);
  });
});

describe('snapping', () => {
  const whole = fc.array(
    fc.tuple(fc.nat(300), fc.nat(300), fc.integer({ min: 8, max: 100 }), fc.integer({ min: 8, max: 100 })),
    { minLength: 3, maxLength: 12 },
  );

  test('a drawing on its grid comes back as it is', () => {
    fc.assert(
      fc.property(whole, (boxes) => {
        const items = boxes.map(([x, y, w, h], i) => box(`b${i}`, x, y, w, h));
        expect(snapItems(items)).toBe(items);
      }),
    );
  });

  test('one that was moved off it comes back onto whole pixels, nothing by more than a little', () => {
    const noise = fc.double({ min: 0.15, max: 0.35, noNaN: true });
    fc.assert(
      fc.property(whole, fc.array(noise, { minLength: 4, maxLength: 40 }), (boxes, off) => {
        const n = (k: number) => off[k % off.length] ?? 0.2;
        const items = boxes.map(([x, y, w, h], i) =>
          box(`b${i}`, x + n(i), y - n(i + 1), w + n(i + 2), h + n(i + 3)),
        );
        fc.pre(isOffGrid(items));
        snapItems(items).forEach((item, i) => {
          const [a, b] = [item.box, items[i]?.box ?? item.box];
          expect([a.x, a.y, a.width, a.height].every(Number.isInteger)).toBe(true);
          expect(Math.max(Math.abs(a.x - b.x), Math.abs(a.y - b.y))).toBeLessThanOrEqual(1.7);
        });
      }),
    );
  });
});

describe('white space', () => {
  const node = (x: number, y: number, w: number, h: number, order: number) => {
    const b = { x, y, width: w, height: h };
    return { box: b, core: b, children: [], pins: [], signature: '', order };
  };

  test('slabs are cut where nothing stands across', () => {
    const nodes = [node(0, 0, 50, 20, 0), node(60, 10, 50, 30, 1), node(0, 60, 110, 20, 2)];
    expect(slabs(nodes, 'column').map((s) => s.length)).toEqual([2, 1]);
    expect(slabs(nodes, 'row').map((s) => s.length)).toEqual([3]);
    expect(gapsOf(nodes.slice(0, 2), 'row')).toEqual([10]);
  });

  test('the commonest number is the middle of the largest crowd', () => {
    expect(commonest([20, 20.4, 40, 19.8], 1)).toEqual({
      value: expect.closeTo(20.07, 1) as number,
      count: 3,
    });
    expect(commonest([], 1).count).toBe(0);
  });
});

describe('measures of paragraphs', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  test('within the range a paragraph breaks as drawn, beyond it otherwise', () => {
    const text = words('Leaves 14:20 from pier 2. Deck space for eighteen cars and a bus.');
    const widest = m.width('Leaves 14:20 from pier', style());
    const [low, high] = breakingRange(text, widest, 3, m);
    expect(low).toBeGreaterThan(widest);
    expect(high).toBeGreaterThan(low);
    expect(high).toBeLessThan(widest + m.width(' 2.', style()) + 0.3);
  });

  test('the roundest number of a range is one that a designer would type', () => {
    expect(roundest(473.2, 512)).toBe(500);
    expect(roundest(473.2, 499)).toBe(480);
    expect(roundest(473.2, 479)).toBe(475);
    expect(roundest(473.2, 473.9)).toBe(473.5);
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 900, noNaN: true }),
        fc.double({ min: 0.6, max: 90, noNaN: true }),
        (low, room) => {
          const n = roundest(low, low + room);
          expect(n).toBeGreaterThanOrEqual(low);
          expect(n).toBeLessThan(low + room);
        },
      ),
    );
  });
});
