import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { readSeveral } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import { walk, type Rules } from '@tinfold/core/model';
import { deviations } from '@tinfold/core/proof';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { draw, partOf, rect, words } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';

const gapsOf = ({ gap, gapBefore }: Rules): number[] => [gap, gapBefore].filter((n) => typeof n === 'number');

describe('numbers as a designer would have typed them', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  test('a hair more on one side is no padding of its own', () => {
    const drawing = draw(400, 200, rect('b', 40, 40, 120.4, 40) + words('w', 56.4, 65, 'Book now'), m);
    const { padding } = partOf(readSeveral([drawing], m).root, 'b').rules;
    expect(padding?.left).toBe(padding?.right);
    expect(Number.isInteger(padding?.left)).toBe(true);
  });

  test('boxes off the grid get whole gaps, and stand within a px of where they were drawn', () => {
    const off = fc.double({ min: -0.4, max: 0.4, noNaN: true });
    fc.assert(
      fc.property(fc.array(off, { minLength: 3, maxLength: 8 }), (offs) => {
        const body = offs.map((d, i) => rect(`r${i}`, 24, 24 + i * 56 + d, 320, 40)).join('');
        const drawing = draw(368, 600, body, m);
        const structure = readSeveral([drawing], m);
        const gaps = [...walk(structure.root)].flatMap((p) => gapsOf(p.rules));
        // One may have to take up what the noise of all comes to.
        expect(gaps.filter((n) => !Number.isInteger(n)).length).toBeLessThanOrEqual(1);
        expect(deviations(structure, drawing, new Engine(m)).every((d) => d.by <= 1.001)).toBe(true);
      }),
      { numRuns: 40 },
    );
  });

  test('copies of a pattern are typed alike, whatever their words', () => {
    const ports = ['Marrow Isle', 'Low Tarn', 'Nether Quay', 'Ellin Skerry', 'Quay', 'A far longer one'];
    const port = fc.constantFrom(...ports);
    const offset = fc.double({ min: 0, max: 0.9, noNaN: true });
    fc.assert(
      fc.property(fc.array(port, { minLength: 3, maxLength: 5 }), offset, offset, (names, dx, dy) => {
        const body = names
          .map((name, i) => {
            const x = 24 + i * 240;
            const head = words(`n${i}`, x + 16 + dx, 54 + dy, name);
            return rect(`c${i}`, x, 24, 220, 96) + head + words(`t${i}`, x + 16 + dx, 94 - dy, '15:40');
          })
          .join('');
        const drawing = draw(24 + names.length * 240, 144, body, m);
        const { root } = readSeveral([drawing], m);
        const cards = names.map((_, i) => partOf(root, `c${i}`));
        const spaces = cards.map((c) => [
          c.rules.padding,
          c.rules.gap,
          c.children.map((p) => p.rules.gapBefore),
        ]);
        for (const said of spaces) expect(said).toEqual(spaces[0]);
      }),
      { numRuns: 40 },
    );
  });

  test('what cannot be whole everywhere stays as it is drawn', () => {
    // Twelve gaps of 7.4 come to almost five px less when each of them is 7.
    const body = Array.from({ length: 13 }, (_, i) => rect(`r${i}`, 24, 20 + i * 27.4, 320, 20)).join('');
    const drawing = draw(368, 400, body, m);
    const structure = readSeveral([drawing], m);
    expect(deviations(structure, drawing, new Engine(m)).every((d) => d.by <= 1.001)).toBe(true);
  });
});
