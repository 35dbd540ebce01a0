import { contains, right, round } from '../model/index.js';
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
  const holds = (box: Item) => items.some((i) => i !== box && contains(box.box, i.box, 1));
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
}

const STEPS = [8, 5, 4, 2, 1];
/** A step is the drawing's when this share of edges follows it. */
const FOLLOWS = 0.75;

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
  return {
    step,
    stepFit: round(fit(step), 2),
    margin: counts.size === 0 ? 0 : Math.round(margin),
    marginFit: items.length === 0 ? 0 : round(off / items.length, 2),
  };
}
