import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { readStructure } from '@tinfold/core/infer';
import { deviations } from '@tinfold/core/proof';
import { Engine, itemBoxes, reflow } from '@tinfold/core/layout';
import { checkAll, pathTo, type Part, type Structure } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, partOf, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

/** A sail whose ink is so large, about a middle. */
const sail = (id: string, middle: readonly [x: number, y: number], width: number, height: number) => {
  const [x, y] = [middle[0] - width / 2, middle[1] - height / 2];
  return `<path id="${id}" d="M${x} ${y + height}L${x + width / 2} ${y}L${x + width} ${y + height}Z" fill="#3f7f75"/>`;
};
const LINKS = ['Sailings', 'Fares', 'Piers', 'Crew'];

describe('the boxes that icons were drawn in', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });
  const read = (width: number, height: number, body: string): Structure => {
    const drawing = draw(width, height, body, m);
    const structure = readStructure(drawing, m);
    expect(checkAll(structure)).toEqual([]);
    expect(deviations(structure, drawing, new Engine(m)).filter((d) => d.by > 0.5)).toEqual([]);
    return structure;
  };
  const around = ({ root }: Structure, id: string): Part => pathTo(root, partOf(root, id).id).at(-2) as Part;
  const row = ({ root }: Structure, id: string): Part =>
    pathTo(root, partOf(root, id).id).findLast((p) => p.rules.flow === 'row') as Part;

  /** Sizes of ink in units of the grid that icons are drawn on. */
  const UNITS = [
    [20, 18],
    [14, 19],
    [18, 18],
    [17, 20],
  ] as const;
  const rail = (side: number, gap: number, x = 40) =>
    UNITS.map(([w, h], i) => {
      const y = 60 + i * 44;
      return (
        sail(`i${i}`, [x + side / 2, y], (w * side) / 24, (h * side) / 24) +
        words(`l${i}`, x + side + gap, y + 6, LINKS[i] ?? '')
      );
    }).join('');

  test('icons under each other share one side and one gap to their words, however wide their ink', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(16, 18, 20, 24),
        fc.constantFrom(8, 12, 16),
        fc.integer({ min: 16, max: 60 }),
        (side, gap, x) => {
          const structure = read(320, 280, rail(side, gap, x));
          for (const i of [0, 1, 2, 3]) {
            expect(around(structure, `i${i}`).rules).toMatchObject({
              width: { kind: 'fixed', px: side },
              height: { kind: 'fixed', px: side },
            });
            expect(row(structure, `i${i}`).rules.gap).toBeCloseTo(gap, 1);
          }
        },
      ),
      { numRuns: 30 },
    );
  });

  test('the ink keeps its size and its place in the box where the frame is narrow', () => {
    const structure = read(320, 280, rail(20, 12));
    const boxes = itemBoxes(structure.root, reflow(structure.root, 240, new Engine(m)));
    expect(boxes.get('i1')?.width).toBeCloseTo((14 * 20) / 24, 2);
    expect(boxes.get('i1')?.height).toBeCloseTo((19 * 20) / 24, 2);
    expect((boxes.get('i1')?.x ?? 0) + (7 * 20) / 24).toBeCloseTo(50, 1);
  });

  test('icons that share their left edge were drawn so', () => {
    const body = UNITS.map(
      ([w, h], i) =>
        sail(`i${i}`, [40 + w / 2, 60 + i * 44], w, h) + words(`l${i}`, 76, 66 + i * 44, LINKS[i] ?? ''),
    );
    const structure = read(320, 280, body.join(''));
    expect(around(structure, 'i1').rules.flow).toBe('row');
  });

  test('icons over the words of a bar stand one gap above them', () => {
    const body = UNITS.map(([w, h], i) => {
      const x = 49 + i * 97.5;
      const label = words(`l${i}`, x, 60, LINKS[i] ?? '', 'font-size="11" text-anchor="middle"');
      return sail(`i${i}`, [x, 30], (w * 22) / 24, (h * 22) / 24) + label;
    });
    const structure = read(390, 76, body.join(''));
    const gaps = UNITS.map((_, i) => around(structure, `l${i}`).rules.gap);
    expect(new Set(gaps).size).toBe(1);
    expect(around(structure, 'i2').rules.width).toEqual({ kind: 'fixed', px: 22 });
  });
});
