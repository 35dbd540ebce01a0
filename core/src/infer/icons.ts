import type { Item } from '../drawing/index.js';
import { bottom, BoxIndex, centreX, centreY, right, type Rect } from '../model/index.js';
import { near } from './node.js';
import { commonest, spread } from './stack.js';

/** The sides that icons are drawn in, px. */
const SIDES = [12, 14, 16, 18, 20, 22, 24, 28, 32];
/** Icons are drawn on a grid of so many units a side, whatever side they are then shown at. */
const UNITS = 24;
/** The share of its box that the largest icon of a set fills, and that the box is no larger than. */
const FILLS = { usual: 0.83, least: 0.55 };
/** What a length off whole units weighs against an unusual share. */
const OFF_UNITS = 2;
/** Something smaller than this is a dot or a mark, px. */
const LEAST = 5;
/** An icon is of a set with others up to this much larger and down to this much smaller than most. */
const LIKE = { most: 1.15, least: 0.4 };
/** Middles within this much of each other are on one line, px. */
const ON_LINE = 1.1;
const SAME_MIDDLE = 0.3;
/** Distances that differ by no more than this are meant to be the same, px; and by how much more others must differ. */
const SAME = 1.1;
const MORE = 0.4;
/** What an icon belongs to stands no further from its ink than this, px. */
const BESIDE = 24;
/** Icons of a bar or a list stand no further apart than this, px. */
const CLOSE = 120;

const ascending = (a: number, b: number): number => a - b;

/** How far off whole units of a side a length is, 0 to 0.5. */
const offUnits = (length: number, side: number): number => {
  const units = (length * UNITS) / side;
  return Math.abs(units - Math.round(units));
};

/**
 * The side of the box that some icons share. What they are drawn in shows in their ink: it measures whole units of
 * the grid that icons are drawn on, and fills the usual share of it.
 */
function sideOf(inks: readonly Rect[]): number | undefined {
  const lengths = inks.flatMap((ink) => [ink.width, ink.height]);
  const largest = lengths.reduce((a, b) => Math.max(a, b), 0);
  const price = (side: number) => {
    const off = lengths.reduce((sum, l) => sum + offUnits(l, side), 0) / lengths.length;
    return OFF_UNITS * off + Math.abs(largest / side - FILLS.usual);
  };
  return SIDES.filter((s) => largest <= s + 0.1 && largest >= s * FILLS.least).sort(
    (a, b) => price(a) - price(b),
  )[0];
}

/** Whether distances from the middles of some things are the same where those from their edges are not. */
const heldByMiddle = (fromMiddle: readonly number[], fromEdge: readonly number[]): boolean =>
  fromMiddle.length > 1 && spread(fromMiddle) <= SAME && spread(fromEdge) > spread(fromMiddle) + MORE;

/** Where a box starts, has its middle and ends along an axis. */
type Places = readonly [
  start: (box: Rect) => number,
  middle: (box: Rect) => number,
  end: (box: Rect) => number,
];
const ACROSS: Places = [(box) => box.x, centreX, right];
const UPRIGHT: Places = [(box) => box.y, centreY, bottom];

/** Things whose middles lie on one line, by line. */
function linesOf(inks: readonly Item[], of: (box: Rect) => number): readonly (readonly Item[])[] {
  const lines: Item[][] = [];
  for (const ink of inks.toSorted((a, b) => of(a.box) - of(b.box))) {
    const line = lines.at(-1);
    if (line?.[0] && near(of(line[0].box), of(ink.box), ON_LINE)) line.push(ink);
    else lines.push([ink]);
  }
  return lines;
}

/** Those of some icons that are about as large as most of them. */
function alike(inks: readonly Item[]): readonly Item[] {
  const size = ({ box }: Item) => Math.max(box.width, box.height);
  const usual = inks.map(size).sort(ascending)[inks.length >> 1] ?? 0;
  return inks.filter((i) => size(i) <= usual * LIKE.most && size(i) >= usual * LIKE.least);
}

function areClose(places: readonly number[]): boolean {
  const sorted = places.toSorted(ascending);
  return sorted.every((at, i) => at - (sorted[i - 1] ?? at) <= CLOSE);
}

/** Whether icons under each other share their middle and not their edges. */
function inColumn(inks: readonly Item[]): boolean {
  const middles = inks.map((i) => centreX(i.box));
  if (!areClose(inks.map((i) => i.box.y))) return false;
  return [(i: Item) => i.box.x, (i: Item) => right(i.box)].every((edge) =>
    heldByMiddle(middles, inks.map(edge)),
  );
}

/** Whether icons beside each other keep the distance of their middles: from each other or from the words at them. */
function inRow(inks: readonly Item[], wordsAt: (reach: Rect) => readonly Rect[]): boolean {
  if (inks.length < 2) return false;
  const sorted = inks.map((i) => i.box).sort((a, b) => a.x - b.x);
  const steps = sorted.slice(1).map((b, i) => [sorted[i] ?? b, b] as const);
  const pitches = steps.map(([a, b]) => centreX(b) - centreX(a));
  if (
    areClose(sorted.map((b) => b.x)) &&
    heldByMiddle(
      pitches,
      steps.map(([a, b]) => b.x - right(a)),
    )
  )
    return true;
  const heldByWords = (reachOf: (ink: Rect) => Rect, [start, middle, end]: Places) => {
    const held = sorted.flatMap((ink) => {
      const next = wordsAt(reachOf(ink)).map((w) => start(w));
      return next.length > 0 ? [{ ink, at: Math.min(...next) }] : [];
    });
    return heldByMiddle(
      held.map(({ ink, at }) => at - middle(ink)),
      held.map(({ ink, at }) => at - end(ink)),
    );
  };
  return (
    heldByWords((ink) => ({ ...ink, x: right(ink), width: BESIDE }), ACROSS) ||
    heldByWords((ink) => ({ ...ink, y: bottom(ink), height: BESIDE }), UPRIGHT)
  );
}

/**
 * The boxes that icons were drawn in, by item. Strokes end inside an icon's box, each icon's elsewhere: icons that
 * are held by their middles, under each other or beside each other, get boxes of one side about their common middle.
 * Others are taken as they were drawn.
 */
export function iconBoxes(items: readonly Item[]): ReadonlyMap<string, Rect> {
  const inks = items.filter(({ kind, box }) => {
    const side = Math.max(box.width, box.height);
    return kind === 'art' && side >= LEAST && side <= (SIDES.at(-1) ?? 0);
  });
  const words = items.filter((i) => i.kind === 'text').map((i) => i.box);
  const index = new BoxIndex(words);
  const wordsAt = (reach: Rect) => index.meeting(reach).flatMap((at) => words[at] ?? []);
  const boxes = new Map<string, Rect>();
  const place = (set: readonly Item[], line: readonly Item[], along: 'x' | 'y') => {
    const side = sideOf(set.map((i) => i.box));
    if (!side) return;
    const start = (middle: number) => Math.round(2 * (middle - side / 2)) / 2;
    const of = along === 'x' ? centreX : centreY;
    const { value } = commonest(set.map((i) => of(i.box)).sort(ascending), SAME_MIDDLE);
    // What is larger than most of them and still fits their box about their middle is of the set as well.
    const isOfSet = ({ box }: Item) =>
      Math.max(box.width, box.height) <= side && near(of(box), value, SAME_MIDDLE);
    for (const { id, box } of line.filter((i) => set.includes(i) || isOfSet(i)))
      boxes.set(id, {
        x: start(along === 'x' ? value : centreX(box)),
        y: start(along === 'y' ? value : centreY(box)),
        width: side,
        height: side,
      });
  };
  for (const column of linesOf(inks, centreX)) {
    const set = alike(column);
    if (inColumn(set)) place(set, column, 'x');
  }
  const rest = inks.filter((ink) => !boxes.has(ink.id));
  for (const row of linesOf(rest, centreY)) {
    const set = alike(row);
    if (inRow(set, wordsAt)) place(set, row, 'y');
  }
  return boxes;
}
