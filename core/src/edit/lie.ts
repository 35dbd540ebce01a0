import { bottom, right, type Flow, type Rect } from '../model/index.js';

/** How far boxes may reach into each other and still stand beside each other, px. */
const TOUCH = 1;

/** How boxes lie to each other. */
export interface Lie {
  /** The container that holds them as they lie; undefined where they do not line up. */
  readonly flow: Flow | undefined;
  /** Their places in the order in which such a container has them. */
  readonly order: readonly number[];
  /** The distances between those that follow each other along it, px; in lines those within lines. */
  readonly gaps: readonly number[];
  /** The distances between lines, px; none for one line. */
  readonly crossGaps: readonly number[];
  /** How many stand in the first line. */
  readonly perLine: number;
}

interface Placed {
  readonly box: Rect;
  readonly at: number;
}

const distances = (
  boxes: readonly Placed[],
  start: (r: Rect) => number,
  end: (r: Rect) => number,
): number[] => boxes.slice(1).map(({ box }, i) => start(box) - end((boxes[i] as Placed).box));

const clear = (gaps: readonly number[]): boolean => gaps.every((g) => g >= -TOUCH);

/** The lines in which boxes stand: each begins below all of the line before. */
function linesOf(boxes: readonly Placed[]): Placed[][] {
  const lines: Placed[][] = [];
  let foot = -Infinity;
  for (const placed of boxes.toSorted((a, b) => a.box.y - b.box.y || a.box.x - b.box.x)) {
    if (placed.box.y >= foot - TOUCH) lines.push([placed]);
    else lines.at(-1)?.push(placed);
    foot = Math.max(foot, bottom(placed.box));
  }
  return lines.map((line) => line.toSorted((a, b) => a.box.x - b.box.x));
}

/** How some boxes lie: a column, a row, a grid where lines have their edges in common, a wrap where they do not. */
export function lieOf(boxes: readonly Rect[]): Lie {
  const placed = boxes.map((box, at) => ({ box, at }));
  const down = placed.toSorted((a, b) => a.box.y - b.box.y);
  const across = placed.toSorted((a, b) => a.box.x - b.box.x);
  const [fall, run] = [distances(down, (r) => r.y, bottom), distances(across, (r) => r.x, right)];
  const at = (list: readonly Placed[]) => list.map((p) => p.at);
  if (clear(run) && !(clear(fall) && boxes.length > 1))
    return { flow: 'row', order: at(across), gaps: run, crossGaps: [], perLine: boxes.length };
  if (clear(fall)) return { flow: 'column', order: at(down), gaps: fall, crossGaps: [], perLine: 1 };
  const lines = linesOf(placed);
  const inLines = lines.map((line) => distances(line, (r) => r.x, right));
  const flat = lines.flat();
  const common = { order: at(flat), gaps: inLines.flat(), perLine: lines[0]?.length ?? 0 };
  const feet = lines.map((line) => Math.max(...line.map((p) => bottom(p.box))));
  const crossGaps = lines.slice(1).map((line, i) => Math.min(...line.map((p) => p.box.y)) - (feet[i] ?? 0));
  if (lines.length < 2 || !inLines.every(clear) || lines.every((line) => line.length === 1))
    return { ...common, flow: undefined, crossGaps };
  const edges = lines.map((line) => line.map((p) => p.box.x));
  const aligned = edges.every((line) => line.every((x, i) => Math.abs(x - (edges[0]?.[i] ?? x)) <= TOUCH));
  return { ...common, flow: aligned ? 'grid' : 'wrap', crossGaps };
}
