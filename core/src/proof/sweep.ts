import type { Engine } from '../layout/index.js';
import { breakpoints, type Structure } from '../model/index.js';
import {
  edgesIn,
  indicesOf,
  sceneAt,
  snapshot,
  type Edges,
  type Scene,
  type Snapshot,
  type View,
} from './scene.js';

/**
 * Whole frame widths from–to over which every edge of every box is linear in the width and every text breaks alike:
 * what holds at both ends holds in between.
 */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly scene: Scene;
  readonly first: Snapshot;
  readonly last: Snapshot;
}

/**
 * No stretch is longer than this many px. Two events that cancel each other out to the hundredth of a px, seen from both
 * ends and from the middle, would be missed; the shorter the stretch, the less that can be.
 */
const LONGEST = 64;
/** Edges nearer than this differ by rounding alone, px: the engine leaves differences of 1/256 px alone. */
const SAME = 0.01;

/** Lays a structure out at one width after another and keeps what it has laid out. */
export class Layouts {
  readonly #structure: Structure;
  readonly #engine: Engine;
  readonly #view: View;
  readonly #indices: ReadonlyMap<string, number>;
  readonly #known = new Map<number, Snapshot>();

  constructor(structure: Structure, engine: Engine, view: View = {}) {
    this.#structure = structure;
    this.#engine = engine;
    this.#view = view;
    this.#indices = indicesOf(structure.root);
  }

  scene(width: number): Scene {
    return sceneAt(this.#structure, width, this.#view);
  }

  at(width: number): Snapshot {
    let found = this.#known.get(width);
    if (!found) {
      found = snapshot(this.scene(width), this.#indices, this.#engine, width);
      this.#known.set(width, found);
    }
    return found;
  }

  /** Forgets the layouts up to a width: a sweep does not come back to them. */
  forgetTo(width: number): void {
    for (const known of this.#known.keys()) if (known <= width) this.#known.delete(known);
  }
}

/** Whether edges lie where a straight line from those of one width to those of another has them. */
function isBetween(
  { all: middle }: Edges,
  { all: first }: Edges,
  { all: last }: Edges,
  share: number,
): boolean {
  for (let i = 0; i < middle.length; i++) {
    const [from, to, is] = [first[i] as number, last[i] as number, middle[i] as number];
    const off = Math.abs(is - from - (to - from) * share);
    // What is not shown has no place at all three.
    if (!(off <= SAME) && !(from !== from && to !== to && is !== is)) return false;
  }
  return true;
}

function breaksAlike(a: Snapshot, b: Snapshot): boolean {
  for (let i = 0; i < a.lines.length; i++) {
    const [p, q] = [a.lines[i], b.lines[i]];
    if (p === q) continue;
    // Lines of the same words are the same objects.
    if (p?.length !== q?.length || !p?.every((line, k) => line === q?.[k])) return false;
  }
  return true;
}

const isLinear = (first: Snapshot, middle: Snapshot, last: Snapshot): boolean => {
  const share = (middle.width - first.width) / (last.width - first.width);
  return (
    breaksAlike(first, last) &&
    breaksAlike(first, middle) &&
    isBetween(middle.box, first.box, last.box, share) &&
    isBetween(middle.ink, first.ink, last.ink, share)
  );
};

/** A layout between those at the ends of a stretch. */
function between({ from, to, first, last }: Stretch, width: number): Snapshot {
  if (width === from) return first;
  if (width === to) return last;
  const share = (width - from) / (to - from);
  const edgesAt = ({ all: a }: Edges, { all: b }: Edges): Edges =>
    edgesIn(a.map((n, i) => n + ((b[i] as number) - n) * share));
  return { width, box: edgesAt(first.box, last.box), ink: edgesAt(first.ink, last.ink), lines: first.lines };
}

/** Some of the widths of a stretch, as one. */
export const partOf = (stretch: Stretch, from: number, to: number): Stretch => ({
  from,
  to,
  scene: stretch.scene,
  first: between(stretch, from),
  last: between(stretch, to),
});

/** The widths at which something of a structure begins to hold, within a range. */
export const beginnings = (structure: Structure, from: number, to: number): number[] =>
  breakpoints(structure)
    .map(Math.ceil)
    .filter((b) => b > from && b <= to);

/**
 * The whole widths of a range as stretches, the narrowest first, found by halving until all boxes are linear. At each of
 * `marks` a new stretch begins.
 */
export function* stretches(
  structure: Structure,
  layouts: Layouts,
  { from, to }: { readonly from: number; readonly to: number },
  marks: readonly number[] = [],
): Generator<Stretch> {
  const starts = new Set([
    from,
    ...beginnings(structure, from, to),
    ...marks.filter((m) => m > from && m <= to),
  ]);
  const sorted = [...starts].sort((a, b) => a - b);
  function* halve(first: number, last: number): Generator<Stretch> {
    const [a, b] = [layouts.at(first), layouts.at(last)];
    const middle = (first + last) >> 1;
    // Of two widths side by side each is judged by itself: anything may happen between them.
    const whole =
      first === last || (last - first > 1 && last - first <= LONGEST && isLinear(a, layouts.at(middle), b));
    if (whole) yield { from: first, to: last, scene: layouts.scene(first), first: a, last: b };
    else {
      yield* halve(first, middle);
      layouts.forgetTo(middle);
      yield* halve(middle + 1, last);
    }
  }
  for (const [i, start] of sorted.entries()) {
    yield* halve(start, (sorted[i + 1] ?? to + 1) - 1);
  }
}

/** Some widths, the narrowest first, each by itself: what {@link stretches} is measured against where it is every width. */
export function* eachOf(layouts: Layouts, widths: readonly number[]): Generator<Stretch> {
  for (const width of widths) {
    const only = layouts.at(width);
    yield { from: width, to: width, scene: layouts.scene(width), first: only, last: only };
    layouts.forgetTo(width);
  }
}
