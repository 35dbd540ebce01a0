import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fitted } from '../src/moving/pictures.js';

const size = fc.double({ min: 1, max: 4000, noNaN: true });
const natural = fc.record({ width: size, height: size });
const box = fc.record({ x: size, y: size, width: size, height: size });
const middle = ({ x, width }: { x: number; width: number }) => x + width / 2;
const ratio = ({ width, height }: { width: number; height: number }) => width / height;

test('a picture that covers its box fills it, cut alike at both sides, undistorted', () => {
  fc.assert(
    fc.property(natural, box, (n, b) => {
      const { from, to } = fitted('cover', n, b);
      expect(to).toEqual(b);
      expect(ratio(from) / ratio(b)).toBeCloseTo(1, 6);
      expect(from.width).toBeLessThanOrEqual(n.width * (1 + 1e-9));
      expect(from.height).toBeLessThanOrEqual(n.height * (1 + 1e-9));
      expect(Math.max(from.width / n.width, from.height / n.height)).toBeCloseTo(1, 6);
      expect(middle(from) / (n.width / 2)).toBeCloseTo(1, 6);
    }),
  );
});

test('a picture that is contained is whole, undistorted, in the middle, and touches two edges', () => {
  fc.assert(
    fc.property(natural, box, (n, b) => {
      const { from, to } = fitted('contain', n, b);
      expect(from).toEqual({ x: 0, y: 0, ...n });
      expect(ratio(to) / ratio(n)).toBeCloseTo(1, 6);
      expect(Math.max(to.width / b.width, to.height / b.height)).toBeCloseTo(1, 6);
      expect(middle(to) / middle(b)).toBeCloseTo(1, 6);
    }),
  );
});

test('a picture that fills its box is stretched over it', () => {
  const b = { x: 3, y: 4, width: 50, height: 10 };
  expect(fitted('fill', { width: 8, height: 8 }, b)).toEqual({
    from: { x: 0, y: 0, width: 8, height: 8 },
    to: b,
  });
});
