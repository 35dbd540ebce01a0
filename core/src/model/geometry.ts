/** An axis-aligned box. Lengths are CSS px; the origin is the top left corner of the frame unless said otherwise. */
export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export const right = (r: Rect): number => r.x + r.width;
export const bottom = (r: Rect): number => r.y + r.height;
export const centreX = (r: Rect): number => r.x + r.width / 2;
export const centreY = (r: Rect): number => r.y + r.height / 2;
export const area = (r: Rect): number => r.width * r.height;

/** The smallest box around all of `boxes`; an empty list gives an empty box at the origin. */
export function union(boxes: readonly Rect[]): Rect {
  const first = boxes[0];
  if (!first) return { x: 0, y: 0, width: 0, height: 0 };
  let [x0, y0, x1, y1] = [first.x, first.y, right(first), bottom(first)];
  for (const b of boxes) {
    x0 = Math.min(x0, b.x);
    y0 = Math.min(y0, b.y);
    x1 = Math.max(x1, right(b));
    y1 = Math.max(y1, bottom(b));
  }
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
}

/** The overlap of two boxes as [width, height]; negative numbers are the distance between them. */
export function overlap(a: Rect, b: Rect): [number, number] {
  return [
    Math.min(right(a), right(b)) - Math.max(a.x, b.x),
    Math.min(bottom(a), bottom(b)) - Math.max(a.y, b.y),
  ];
}

/** Whether two boxes cover each other by more than touching: by `by` px each way. */
export function covers(a: Rect, b: Rect, by = 1): boolean {
  const [w, h] = overlap(a, b);
  return w > by && h > by;
}

/** Whether `inner` lies inside `outer`, each edge with `tolerance` px to spare. */
export function contains(outer: Rect, inner: Rect, tolerance: number): boolean {
  return (
    inner.x >= outer.x - tolerance &&
    inner.y >= outer.y - tolerance &&
    right(inner) <= right(outer) + tolerance &&
    bottom(inner) <= bottom(outer) + tolerance
  );
}

/** `r` moved by (dx, dy). */
export const moved = (r: Rect, dx: number, dy: number): Rect => ({ ...r, x: r.x + dx, y: r.y + dy });

/** `value` rounded to `digits` decimals, without a negative zero. */
export function round(value: number, digits = 3): number {
  const scale = 10 ** digits;
  return Math.round(value * scale) / scale + 0;
}
