import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SHAPE_KEYS } from '../../../src/drawing/outlined/contours.js';
import { contoursOf, pathOf, type Contour } from '../../../src/drawing/outlined/contours.js';

const point = fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 }));
/** A closed line of quadratic curves, as fonts have them. */
const outline = fc.array(fc.tuple(point, point), { minLength: 3, maxLength: 6 });

const quadratic = (segments: readonly (readonly [readonly number[], readonly number[]])[]): string => {
  const end = segments.at(-1)?.[1] ?? [0, 0];
  return `M${end.join(' ')}${segments.map(([c, p]) => `Q${c.join(' ')} ${p.join(' ')}`).join('')}Z`;
};
/** The same with each curve as a cubic, and each cut in two. */
function raised(segments: readonly (readonly [readonly number[], readonly number[]])[]): string {
  let from = segments.at(-1)?.[1] ?? [0, 0];
  let d = `M${from.join(' ')}`;
  const mid = (a: readonly number[], b: readonly number[]) => a.map((v, i) => (v + (b[i] ?? 0)) / 2);
  for (const [c, to] of segments) {
    const c1 = from.map((v, i) => v + (2 / 3) * ((c[i] ?? 0) - v));
    const c2 = to.map((v, i) => v + (2 / 3) * ((c[i] ?? 0) - v));
    const [a, b, e] = [mid(from, c1), mid(c1, c2), mid(c2, to)];
    const [f, g] = [mid(a, b), mid(b, e)];
    const m = mid(f, g);
    d += `C${a.join(' ')} ${f.join(' ')} ${m.join(' ')}C${g.join(' ')} ${e.join(' ')} ${to.join(' ')}`;
    from = to;
  }
  return `${d}Z`;
}

const expectAlike = (a: Contour | undefined, b: Contour | undefined, digits: number): void => {
  expect(a).toBeDefined();
  for (const key of SHAPE_KEYS) expect(a?.shape[key]).toBeCloseTo(b?.shape[key] ?? NaN, digits);
};

describe('closed lines', () => {
  test('have the shape of what they enclose, whatever their size and place', () => {
    const [square] = contoursOf('M10 10H30V30H10Z');
    expect(square).toMatchObject({ left: 10, top: 10, right: 30, bottom: 30 });
    expect(square?.shape.aspect).toBeCloseTo(0, 12);
    expect(square?.shape.cover).toBeCloseTo(1, 12);
    // A square's second moment about its middle is a twelfth of its side squared.
    expect(square?.shape.spreadX).toBeCloseTo(1 / 12, 12);
    const [circle] = contoursOf('M0 5A5 5 0 0 1 10 5A5 5 0 0 1 0 5Z');
    expect(circle?.shape.cover).toBeCloseTo(Math.PI / 4, 3);
    expect(circle?.shape.spreadY).toBeCloseTo(1 / 16, 3);
    const [triangle] = contoursOf('M0 0L6 0L0 9');
    expect(triangle?.shape.cover).toBeCloseTo(0.5, 12);
    // Upwards: its right angle is at the top left.
    expect(triangle?.shape.centreY).toBeCloseTo(1 / 6, 12);
    expect(triangle?.shape.centreX).toBeCloseTo(-1 / 6, 12);
  });

  test('are the same after curves were raised in degree and cut', () => {
    fc.assert(
      fc.property(outline, (segments) => {
        const [a] = contoursOf(quadratic(segments));
        fc.pre(a !== undefined && a.shape.cover > 0.05);
        expectAlike(a, contoursOf(raised(segments))[0], 6);
      }),
      { numRuns: 300 },
    );
  });

  test('are the same after they were written again', () => {
    fc.assert(
      fc.property(outline, (segments) => {
        const [a] = contoursOf(quadratic(segments));
        fc.pre(a !== undefined && a.shape.cover > 0.1);
        expectAlike(contoursOf(pathOf(a))[0], a, 3);
      }),
      { numRuns: 100 },
    );
  });

  test('that cover nothing are none', () => {
    expect(contoursOf('M0 0L10 10Z')).toEqual([]);
    expect(contoursOf('M0 0H10V0Z')).toEqual([]);
    expect(contoursOf('')).toEqual([]);
  });
});
