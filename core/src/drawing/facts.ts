import { BoxIndex, contains, right, round } from '../model/index.js';
import type { Drawing, Item } from './items.js';

/** What a drawing is made of, in numbers. */
export interface DrawingFacts {
  readonly texts: number;
  readonly typeStyles: number;
  readonly boxes: number;
  /** Boxes that hold other items. */
  readonly holders: number;
  readonly icons: number;
  readonly pictures: number;
}

export function factsOf({ items }: Drawing): DrawingFacts {
  const texts = items.filter((i) => i.kind === 'text');
  const styles = new Set(
    texts.flatMap((t) => t.content.runs.map((r) => `${r.style.family} ${r.style.size} ${r.style.weight}`)),
  );
  const boxes = items.filter((i) => i.kind === 'shape');
  const index = new BoxIndex(items.map((i) => i.box));
  const holds = (box: Item) =>
    index.meeting(box.box).some((at) => {
      const inner = items[at];
      return inner !== undefined && inner !== box && contains(box.box, inner.box, 1);
    });
  return {
    texts: texts.length,
    typeStyles: styles.size,
    boxes: boxes.length,
    holders: boxes.filter(holds).length,
    icons: items.filter((i) => i.kind === 'art').length,
    pictures: items.filter((i) => i.kind === 'picture').length,
  };
}

/** The grid that a drawing follows: its step, its margins, and what share of its edges agree with each. */
export interface DrawingGrid {
  readonly step: number;
  readonly stepFit: number;
  readonly margin: number;
  readonly marginFit: number;
  /** The columns between the margins; absent where the boxes follow none. */
  readonly columns?: { readonly count: number; readonly gutter: number; readonly fit: number };
}

const STEPS = [8, 5, 4, 2, 1];
/** A step is the drawing's when this share of edges follows it. */
const FOLLOWS = 0.75;

const GUTTERS = [8, 10, 12, 16, 20, 24, 30, 32, 40, 48];
const COUNTS = [2, 3, 4, 5, 6, 8, 10, 12, 16];
/** A column grid is the drawing's when this share of edges stands on its columns. */
const ON_COLUMNS = 0.6;

/**
 * The columns that most boxes begin and end on. Many narrow columns fit anything, so that what a grid would catch by
 * chance counts against it.
 */
function columnsOf(items: readonly Item[], width: number, margin: number): DrawingGrid['columns'] {
  const inner = width - 2 * margin;
  const boxes = items
    .filter((i) => i.kind !== 'text' && i.kind !== 'art' && i.box.width > 24 && i.box.width < inner - 1)
    .map((i) => i.box);
  if (boxes.length < 3 || inner <= 0) return undefined;
  let best: (NonNullable<DrawingGrid['columns']> & { readonly worth: number }) | undefined;
  for (const count of COUNTS)
    for (const gutter of GUTTERS) {
      const column = (inner - gutter * (count - 1)) / count;
      if (column < 24) continue;
      const on = (x: number) => {
        const at = (x - margin) / (column + gutter);
        return Math.abs(at - Math.round(at)) * (column + gutter) <= 1;
      };
      const hits = boxes.filter((b) => on(b.x)).length + boxes.filter((b) => on(right(b) + gutter)).length;
      const fit = hits / (2 * boxes.length);
      const worth = fit - (2 / (column + gutter)) * 2 - count * 0.004;
      if (fit >= ON_COLUMNS && worth > (best?.worth ?? 0))
        best = { count, gutter, fit: round(fit, 2), worth };
    }
  return best && { count: best.count, gutter: best.gutter, fit: best.fit };
}

/** The largest common step that most box edges follow, and the usual distance from the frame's sides. */
export function gridOf({ items, width }: Drawing): DrawingGrid {
  const boxes = items.filter((i) => i.kind !== 'text' && i.kind !== 'art').map((i) => i.box);
  const edges = boxes.flatMap((b) => [b.x, b.y, right(b), b.y + b.height]);
  const fit = (step: number) =>
    edges.length === 0
      ? 0
      : edges.filter((e) => Math.abs(e / step - Math.round(e / step)) * step < 0.26).length / edges.length;
  const step = STEPS.find((s) => fit(s) >= FOLLOWS) ?? 1;
  const starts = items.map((i) => i.box.x).filter((x) => x > 0.5 && x < width / 3);
  const counts = new Map<number, number>();
  for (const x of starts) counts.set(Math.round(x), (counts.get(Math.round(x)) ?? 0) + 1);
  const margin = Math.min(
    ...[...counts].filter(([, n]) => n >= Math.max(2, starts.length * 0.1)).map(([x]) => x),
    width / 3,
  );
  const off = items.filter((i) => i.box.x >= margin - 0.6 || i.box.width >= width - 1).length;
  const used = counts.size === 0 ? 0 : Math.round(margin);
  const columns = columnsOf(items, width, used);
  return {
    step,
    stepFit: round(fit(step), 2),
    margin: used,
    marginFit: items.length === 0 ? 0 : round(off / items.length, 2),
    ...(columns && { columns }),
  };
}
