import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { intoCell, spanOf, standingColumns, withColumns, withLineMoved } from '@tinfold/core/edit';
import { Engine, reflow } from '@tinfold/core/layout';
import {
  applyStep,
  FILL,
  fixed,
  pad,
  standing,
  type Columns,
  type Part,
  type Rect,
} from '@tinfold/core/model';
import { grid, shape, structure } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const engine = new Engine(await testMeasurer());
const boxOf = (root: Part): Rect => ({
  x: 0,
  y: 0,
  width: 1000,
  height: 100,
  ...reflow(root, 1000, engine).parts.get(root.id),
});
const filled = (columns: Columns, count: number): Part =>
  grid(
    { columns, gap: 20, padding: pad(10, 30) },
    ...Array.from({ length: count }, () => shape(1, 10, { width: FILL })),
  );

const track = fc.oneof(
  fc.integer({ min: 1, max: 4 }).map((weight) => ({ kind: 'fr', weight }) as const),
  fc.integer({ min: 20, max: 120 }).map((px) => ({ kind: 'fixed', px }) as const),
);
const columns = fc.oneof(
  fc.integer({ min: 1, max: 6 }).map((count): Columns => ({ kind: 'count', count })),
  fc.array(track, { minLength: 1, maxLength: 5 }).map((tracks): Columns => ({ kind: 'tracks', tracks })),
);

describe('the columns of a grid', () => {
  test('stand where the engine lays them out', () => {
    fc.assert(
      fc.property(columns, (said) => {
        const count = said.kind === 'count' ? said.count : said.kind === 'tracks' ? said.tracks.length : 0;
        const root = filled(said, count);
        const found = standingColumns(root, boxOf(root)) ?? [];
        const { parts } = reflow(root, 1000, engine);
        expect(found).toHaveLength(count);
        for (const [i, { start, width }] of found.entries()) {
          const box = parts.get(root.children[i]?.id ?? '');
          expect(Math.abs((box?.x ?? NaN) - start)).toBeLessThan(0.02);
          expect(Math.abs((box?.width ?? NaN) - width)).toBeLessThan(0.02);
        }
      }),
    );
  });

  test('a line that is moved makes the column before it so wide, and moves no other line', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 5 }),
        fc.nat(3),
        fc.integer({ min: 60, max: 200 }),
        (count, n, px) => {
          const at = n % (count - 1);
          const root = filled({ kind: 'count', count }, count);
          const before = standingColumns(root, boxOf(root)) ?? [];
          const after = filled(withLineMoved(before, at, px), count);
          const now = standingColumns(after, boxOf(after)) ?? [];
          const both = (before[at]?.width ?? 0) + (before[at + 1]?.width ?? 0);
          // Weights have two decimals: of both columns' room a hundredth of the weights is rounded.
          const exact = both / (2 * count);
          expect(Math.abs((now[at]?.width ?? NaN) - Math.min(px, both * 0.99))).toBeLessThan(
            Math.max(2, exact * 0.05),
          );
          for (const [i, c] of before.entries())
            if (i !== at + 1) expect(Math.abs((now[i]?.start ?? NaN) - c.start)).toBeLessThan(1);
        },
      ),
    );
  });

  test('that are fixed keep their px, and a fixed one beside takes the rest', () => {
    const root = filled(
      {
        kind: 'tracks',
        tracks: [
          { kind: 'fixed', px: 100 },
          { kind: 'fr', weight: 1 },
          { kind: 'fixed', px: 200 },
        ],
      },
      3,
    );
    const found = standingColumns(root, boxOf(root)) ?? [];
    expect(withLineMoved(found, 0, 140)).toMatchObject({ tracks: [{ px: 140 }, { weight: 1 }, { px: 200 }] });
    const middle = found[1]?.width ?? 0;
    expect(withLineMoved(found, 1, middle - 50)).toMatchObject({
      tracks: [{ px: 100 }, { weight: 1 }, { px: 250 }],
    });
  });

  test('a child spans as many as it is dragged over', () => {
    const root = filled({ kind: 'count', count: 4 }, 4);
    const found = standingColumns(root, boxOf(root)) ?? [];
    const wide = found[0]?.width ?? 0;
    expect(
      [10, wide, wide * 1.4, wide * 2 + 20, wide * 9].map((px) => spanOf(found, found[0]?.start ?? 0, px)),
    ).toEqual([1, 1, 1, 2, 4]);
    expect(spanOf(found, found[2]?.start ?? 0, wide * 9)).toBe(2);
  });

  test('and where the grid has fewer columns, as many as there are', () => {
    const base = filled({ kind: 'count', count: 4 }, 4);
    const doc = structure({
      ...base,
      below: [
        { width: 800, rules: { columns: { kind: 'count', count: 2 } } },
        { width: 500, rules: { columns: { kind: 'count', count: 1 } } },
      ],
    });
    const id = base.children[0]?.id ?? '';
    const result = applyStep(doc, { kind: 'several', steps: intoCell(doc, [id], { columnSpan: 3 }) });
    if (!result.ok) throw new Error(result.reason);
    const span = (width: number) => standing(result.doc, { width }).children[0]?.rules.cell?.columnSpan;
    expect([span(1000), span(700), span(400)]).toEqual([3, 2, 1]);
  });

  test('one more is like the last, and the last one left stays', () => {
    expect(withColumns({ kind: 'count', count: 2 }, 1)).toEqual({ kind: 'count', count: 3 });
    expect(withColumns({ kind: 'count', count: 1 }, -1)).toBeUndefined();
    const own: Columns = { kind: 'tracks', tracks: [{ kind: 'fixed', px: 40 }, { kind: 'fit' }] };
    expect(withColumns(own, 1)).toMatchObject({ tracks: [{ px: 40 }, { kind: 'fit' }, { kind: 'fit' }] });
    expect(withColumns(own, -1)).toMatchObject({ tracks: [{ px: 40 }] });
    expect(withColumns({ kind: 'repeat', min: 200 }, 1)).toBeUndefined();
    expect(standingColumns(grid({ columns: own, width: fixed(300) }), boxOf(filled(own, 2)))).toBeUndefined();
  });
});
