import type { Item } from '../drawing/index.js';
import { bottom, right, type Rect } from '../model/index.js';

/** Edges within this much of each other were meant to be one, in a drawing that is off its grid; px. */
export const ONE_EDGE = 1.1;
/** The distance from half pixels that tells an edge is off the grid. */
const OFF = 0.11;

/** Whether most shapes stand off the half-pixel grid: the drawing was moved or exported with noise. */
export function isOffGrid(items: readonly Item[]): boolean {
  const edges = items.flatMap((i) =>
    i.kind === 'shape' ? [i.box.x, i.box.y, right(i.box), bottom(i.box)] : [],
  );
  const off = edges.filter((n) => Math.abs(n * 2 - Math.round(n * 2)) > OFF);
  return edges.length > 6 && off.length > edges.length * 0.5;
}

/** Maps every value to the whole number that it and its near neighbours are about. */
function snapper(values: readonly number[]): (value: number) => number {
  const sorted = [...new Set(values)].sort((a, b) => a - b);
  const target = new Map<number, number>();
  let run: number[] = [];
  const close = () => {
    const mean = run.reduce((s, n) => s + n, 0) / run.length;
    for (const n of run) target.set(n, Math.round(mean));
    run = [];
  };
  for (const value of sorted) {
    const [start] = run;
    if (start !== undefined && value - start > ONE_EDGE) close();
    run.push(value);
  }
  if (run.length > 0) close();
  return (value) => target.get(value) ?? Math.round(value);
}

/**
 * Moves the items of a drawing that is off its grid back onto whole pixels, edges that belong together onto one.
 * Sizes of words stay: they come from the font. A drawing on its grid comes back as it is.
 */
export function snapItems(items: readonly Item[]): readonly Item[] {
  if (!isOffGrid(items)) return items;
  const boxes = items.filter((i) => i.kind !== 'text').map((i) => i.box);
  const x = snapper([
    ...boxes.flatMap((b) => [b.x, right(b)]),
    ...items.filter((i) => i.kind === 'text').map((i) => i.box.x),
  ]);
  const y = snapper(boxes.flatMap((b) => [b.y, bottom(b)]));
  const top = snapper(items.filter((i) => i.kind === 'text').map((i) => i.box.y));
  return items.map((item): Item => {
    const { box } = item;
    if (item.kind === 'text') return moveText(item, x(box.x) - box.x, top(box.y) - box.y);
    const left = x(box.x);
    const upper = y(box.y);
    const snapped: Rect = {
      x: left,
      y: upper,
      width: Math.max(Math.min(1, Math.ceil(box.width)), x(right(box)) - left),
      height: Math.max(Math.min(1, Math.ceil(box.height)), y(bottom(box)) - upper),
    };
    return { ...item, box: snapped };
  });
}

function moveText(item: Extract<Item, { kind: 'text' }>, dx: number, dy: number): Item {
  return {
    ...item,
    box: { ...item.box, x: item.box.x + dx, y: item.box.y + dy },
    lines: item.lines.map((l) => ({ ...l, x: l.x + dx, baseline: l.baseline + dy })),
  };
}
