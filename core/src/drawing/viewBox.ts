import { compose, scale, translate, type Matrix } from 'transformation-matrix';

/** The four numbers of a `viewBox`, or undefined where it is not given or draws nothing. */
export function parseViewBox(
  text: string | undefined,
): [x: number, y: number, width: number, height: number] | undefined {
  const numbers = (text ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [x = NaN, y = NaN, width = NaN, height = NaN] = numbers;
  const sound =
    numbers.length === 4 && [x, y, width, height].every((n) => Math.abs(n) < 1e7) && width > 0 && height > 0;
  return sound ? [x, y, width, height] : undefined;
}

/**
 * The matrix from a viewBox to a viewport of width × height px (SVG 2 §8.2, `preserveAspectRatio` §8.6: scaled evenly
 * and in the middle unless it says otherwise).
 */
export function viewBoxMatrix(
  [vx, vy, vw, vh]: readonly [number, number, number, number],
  width: number,
  height: number,
  preserve = 'xMidYMid meet',
): Matrix {
  const [sx, sy] = [width / vw, height / vh];
  if (preserve.includes('none')) return compose(scale(sx, sy), translate(-vx, -vy));
  const k = preserve.includes('slice') ? Math.max(sx, sy) : Math.min(sx, sy);
  const share = (min: string, max: string) => (preserve.includes(min) ? 0 : preserve.includes(max) ? 1 : 0.5);
  const dx = (width - vw * k) * share('xMin', 'xMax');
  const dy = (height - vh * k) * share('YMin', 'YMax');
  return compose(translate(dx, dy), scale(k), translate(-vx, -vy));
}
