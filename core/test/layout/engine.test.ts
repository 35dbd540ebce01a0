import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { Engine, reflow } from '@tinfold/core/layout';
import { FILL, fixed, pad, round, type Part } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { hypothetical, resolveFlexibleLengths } from '../../src/layout/flexibleLengths.js';
import { anyRoot } from '../support/arbitrary.js';
import { column, grid, row, shape, text, wrap } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const fill = (weight = 1) => ({ width: { kind: 'fill' as const, weight } });

describe('the layout engine', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  /** The boxes of the root's children as [x, y, width, height]. */
  const children = (root: Part, width: number): number[][] => {
    const { parts } = reflow(root, width, new Engine(m));
    return root.children.map((c) => {
      const b = parts.get(c.id);
      return b ? [b.x, b.y, b.width, b.height].map((n) => round(n, 2)) : [];
    });
  };

  test.each<[string, () => Part, number, number[][]]>([
    [
      'a column stacks with gap and padding',
      () => column({ gap: 10, padding: pad(5, 8) }, shape(20, 30), shape(40, 10)),
      200,
      [
        [8, 5, 20, 30],
        [8, 45, 40, 10],
      ],
    ],
    [
      'fill shares a row by weight',
      () => row({ gap: 10 }, shape(0, 5, fill(1)), shape(0, 5, fill(2))),
      100,
      [
        [0, 0, 30, 5],
        [40, 0, 60, 5],
      ],
    ],
    [
      'a limit freezes and the rest is shared',
      () => row({}, shape(0, 5, { ...fill(), maxWidth: 20 }), shape(0, 5, fill()), shape(0, 5, fill())),
      100,
      [
        [0, 0, 20, 5],
        [20, 0, 40, 5],
        [60, 0, 40, 5],
      ],
    ],
    [
      'a min freezes the other way',
      () => row({}, shape(0, 5, { ...fill(), minWidth: 80 }), shape(0, 5, fill())),
      100,
      [
        [0, 0, 80, 5],
        [80, 0, 20, 5],
      ],
    ],
    [
      'a share is of the inner size',
      () => row({ padding: pad(0, 10) }, shape(0, 5, { width: { kind: 'share', percent: 25 } })),
      100,
      [[10, 0, 20, 5]],
    ],
    [
      'between puts the ends apart',
      () => row({ gap: 'between' }, shape(10, 5), shape(20, 5), shape(10, 5)),
      100,
      [
        [0, 0, 10, 5],
        [40, 0, 20, 5],
        [90, 0, 10, 5],
      ],
    ],
    [
      'a negative gap overlaps',
      () => row({ gap: -8 }, shape(40, 40), shape(40, 40), shape(40, 40)),
      200,
      [
        [0, 0, 40, 40],
        [32, 0, 40, 40],
        [64, 0, 40, 40],
      ],
    ],
    [
      'one gap may differ',
      () => column({ gap: 4 }, shape(5, 5), shape(5, 5), shape(5, 5, { gapBefore: 20 })),
      50,
      [
        [0, 0, 5, 5],
        [0, 9, 5, 5],
        [0, 34, 5, 5],
      ],
    ],
    [
      'alignment across a row, and one child otherwise',
      () => row({ align: 'centre' }, shape(10, 40), shape(10, 20), shape(10, 20, { alignSelf: 'end' })),
      100,
      [
        [0, 0, 10, 40],
        [10, 10, 10, 20],
        [20, 20, 10, 20],
      ],
    ],
    [
      'a filling child is as high as the row',
      () => row({}, shape(10, 40), shape(10, 0, { height: FILL })),
      100,
      [
        [0, 0, 10, 40],
        [10, 0, 10, 40],
      ],
    ],
    [
      'a wrap breaks lines',
      () => wrap({ gap: 10, crossGap: 6 }, shape(40, 10), shape(40, 20), shape(40, 10)),
      100,
      [
        [0, 0, 40, 10],
        [50, 0, 40, 20],
        [0, 26, 40, 10],
      ],
    ],
    [
      'filling children of a wrap take what their line leaves',
      () =>
        wrap(
          { gap: 10 },
          shape(0, 5, { ...fill(), minWidth: 40 }),
          shape(0, 5, { ...fill(), minWidth: 40 }),
          shape(0, 5, { ...fill(), minWidth: 40 }),
        ),
      100,
      [
        [0, 0, 45, 5],
        [55, 0, 45, 5],
        [0, 15, 100, 5],
      ],
    ],
    [
      'a repeat takes as many columns as fit',
      () =>
        grid(
          { gap: 10, columns: { kind: 'repeat', min: 40 } },
          shape(0, 5, fill()),
          shape(0, 5, fill()),
          shape(0, 5, fill()),
        ),
      110,
      [
        [0, 0, 50, 5],
        [60, 0, 50, 5],
        [0, 15, 50, 5],
      ],
    ],
    [
      'and no more than its most',
      () =>
        grid(
          { gap: 10, columns: { kind: 'repeat', min: 40, most: 2 } },
          shape(0, 5, fill()),
          shape(0, 5, fill()),
        ),
      410,
      [
        [0, 0, 200, 5],
        [210, 0, 200, 5],
      ],
    ],
    [
      'a pin to the far corner',
      () => column({ height: fixed(50) }, shape(10, 10, { pin: { right: 4, bottom: 6 } })),
      100,
      [[86, 34, 10, 10]],
    ],
    [
      'a pin to the middle',
      () => column({ height: fixed(50) }, shape(10, 10, { pin: { centreX: 5, centreY: 0 } })),
      100,
      [[50, 20, 10, 10]],
    ],
    [
      'a pin to both edges',
      () => column({ height: fixed(50) }, shape(0, 10, { ...fill(), pin: { left: 10, right: 20, top: 0 } })),
      100,
      [[10, 0, 70, 10]],
    ],
    [
      'a picture keeps its ratio',
      () => column({}, shape(0, 0, { ...fill(), height: { kind: 'ratio', width: 16, height: 9 } })),
      160,
      [[0, 0, 160, 90]],
    ],
    [
      'what is hidden takes no room',
      () => column({ gap: 10 }, shape(5, 5), shape(5, 5, { hidden: true }), shape(5, 5)),
      50,
      [[0, 0, 5, 5], [], [0, 15, 5, 5]],
    ],
    [
      'a limit in the middle of a wide frame',
      () => column({ align: 'centre' }, shape(0, 5, { ...fill(), maxWidth: 60 })),
      100,
      [[20, 0, 60, 5]],
    ],
  ])('%s', (_, root, width, boxes) => {
    expect(children(root(), width)).toEqual(boxes);
  });

  test('words wrap where there is no room, and baselines meet', () => {
    const root = row(
      { align: 'baseline' },
      text('Pier 2', {}, 40),
      text('Leaves 14:20 from the north ramp', fill(), 20),
    );
    const { parts, lines } = reflow(root, 200, new Engine(m));
    const [a, b] = root.children;
    expect(lines.get(b?.id ?? '')?.length).toBeGreaterThan(1);
    // Half of (40 − 20) px of line height lie above the first word.
    expect((parts.get(b?.id ?? '')?.y ?? 0) - (parts.get(a?.id ?? '')?.y ?? 0)).toBe(10);
  });

  test('any tree at any width ends in finite boxes of the parts that are shown', () => {
    fc.assert(
      fc.property(anyRoot(4), fc.integer({ min: 1, max: 2000 }), (root, width) => {
        const { parts } = reflow(root, width, new Engine(m));
        expect(parts.size).toBe(shown(root));
        for (const b of parts.values()) {
          expect([b.x, b.y, b.width, b.height].every(Number.isFinite)).toBe(true);
          expect(Math.min(b.width, b.height)).toBeGreaterThanOrEqual(0);
        }
      }),
    );
  });

  test('what is kept from other widths changes nothing', () => {
    fc.assert(
      fc.property(
        anyRoot(3),
        fc.array(fc.integer({ min: 200, max: 1500 }), { minLength: 2, maxLength: 5 }),
        (root, widths) => {
          const kept = new Engine(m);
          for (const width of widths) {
            // A copy of the tree: what is kept of a part is kept for all engines.
            const [a, b] = [reflow(root, width, kept), reflow(structuredClone(root), width, new Engine(m))];
            expect([...a.parts]).toEqual([...b.parts]);
          }
        },
      ),
      { numRuns: 50 },
    );
  });
});

/** How many parts are shown. */
const shown = (part: Part): number =>
  part.rules.hidden ? 0 : part.children.reduce((n, c) => n + shown(c), 1);

describe('flexible lengths', () => {
  const item = fc
    .record({ base: fc.nat(300), min: fc.nat(120), extra: fc.nat(400), grow: fc.nat(3), shrink: fc.nat(2) })
    .map(({ base, min, extra, grow, shrink }) => ({
      base,
      inner: base,
      min,
      max: min + extra,
      grow,
      shrink,
    }));

  test('stay within limits, and fill the room when something may grow into it', () => {
    fc.assert(
      fc.property(fc.array(item, { minLength: 1, maxLength: 6 }), fc.nat(1500), (items, room) => {
        const sizes = resolveFlexibleLengths(items, room);
        sizes.forEach((size, i) => {
          expect(size).toBeGreaterThanOrEqual((items[i]?.min ?? 0) - 1e-6);
          expect(size).toBeLessThanOrEqual(Math.max(items[i]?.max ?? 0, items[i]?.min ?? 0) + 1e-6);
        });
        const used = sizes.reduce((s, n) => s + n, 0);
        const growing = items.reduce((s, i) => s + hypothetical(i), 0) < room;
        const canTake = items.every((i) => i.grow > 0) && items.reduce((s, i) => s + i.max, 0) >= room;
        if (growing && canTake) expect(used).toBeCloseTo(room, 3);
        if (growing) expect(used).toBeLessThanOrEqual(room + 1e-6);
      }),
    );
  });
});
