import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { allOver, type Term } from '../../src/proof/linear.js';

/** Whole numbers, so that a term is on a limit at some widths: then it is not over it. */
const term = fc.tuple(fc.integer({ min: -20, max: 20 }), fc.integer({ min: -20, max: 20 }));

describe('allOver', () => {
  test('gives the widths at which all terms and conditions hold, looked at one by one', () => {
    fc.assert(
      fc.property(
        fc.array(term, { minLength: 1, maxLength: 3 }),
        fc.array(term, { maxLength: 3 }),
        fc.integer({ min: -3, max: 3 }),
        fc.integer({ min: 1, max: 12 }),
        (terms, conditions, limit, length) => {
          const [from, to] = [320, 320 + length];
          // Fractions of whole numbers, compared as whole numbers.
          const at = ([first, last]: Term, width: number) => first * length + (last - first) * (width - from);
          const holds = Array.from({ length: length + 1 }, (_, i) => from + i).filter(
            (width) =>
              terms.every((t) => at(t, width) > limit * length) && conditions.every((t) => at(t, width) > 0),
          );
          const found = allOver(terms, limit, from, to, conditions);
          expect(found?.from).toBe(holds[0]);
          expect(found?.to).toBe(holds.at(-1));
          if (!found) return;
          const least = (width: number) => Math.min(...terms.map((t) => at(t, width) / length));
          expect(found.by).toBeCloseTo(Math.max(...holds.map(least)), 9);
          expect(least(found.worst)).toBeCloseTo(found.by, 9);
        },
      ),
      { numRuns: 2000 },
    );
  });
});
