import { heightOf, widthOf } from './contours.js';
import { middleOf } from './drawn.js';
import { isPlain, joinedMark, type Mark } from './drawnGlyphs.js';
import type { Piece } from './pieces.js';

/** Glyphs that stand side by side on a baseline, from left to right. Px. */
export interface DrawnGlyphs {
  readonly glyphs: readonly Mark[];
  readonly baseline: number;
  /** The height of its capitals, or of what is highest on the baseline. */
  readonly high: number;
}

/** Letters that stand on a baseline reach below it by no more, as a share of their height: round ones do. */
const OVERSHOOT = 0.04;
/** Places are rounded by so much, px. */
const ROUNDED = 0.06;
/** Of two letters side by side, the gap is less than this many heights of the higher one. */
const BESIDE = 1;
/** Letters of one line differ in height by less than this factor: a comma's is the least. */
const UNLIKE = 4;
/** Capitals are so high, em: most text faces are within a tenth of it. */
export const CAPITALS = 0.72;
/** What is wider than this many heights of the line is no letter: a rule under words, a box behind them. */
const WIDE = 2;
/** Descenders reach less far below the baseline, in heights of what is known of the line: perhaps its small letters alone. */
const BELOW = 0.65;
/** Ascenders, accents and quotes reach less far above, in the same heights. */
const ABOVE = 1.6;

/** Closed lines that lie in another one of the same shape go with it: counters, and holes of icons. */
function marksOf(pieces: readonly Piece[]): Mark[] {
  const order = pieces
    .map((_, i) => i)
    .sort((a, b) => (pieces[a]?.contour.left ?? 0) - (pieces[b]?.contour.left ?? 0));
  const owner = new Map<number, number>();
  let open: number[] = [];
  for (const i of order) {
    const { contour: c, item } = pieces[i] as Piece;
    open = open.filter((o) => (pieces[o]?.contour.right ?? 0) > c.left - ROUNDED);
    const within = open.find((o) => {
      const { contour: other, item: its } = pieces[o] as Piece;
      return (
        its === item &&
        c.right <= other.right + ROUNDED &&
        c.top >= other.top - ROUNDED &&
        c.bottom <= other.bottom + ROUNDED
      );
    });
    if (within === undefined) open.push(i);
    else owner.set(i, within);
  }
  const inside = new Map<number, number[]>();
  for (const [i, o] of owner) inside.set(o, [...(inside.get(o) ?? []), i]);
  return order
    .filter((i) => !owner.has(i))
    .map((i) => {
      const own = [i, ...(inside.get(i) ?? [])];
      const { contour, paint } = pieces[i] as Piece;
      const { left, top, right, bottom } = contour;
      const contours = own.map((p) => (pieces[p] as Piece).contour);
      return { left, top, right, bottom, paint, pieces: own, contours };
    });
}

/** Whether two marks, the first one further left, are letters side by side on one baseline. */
function standBeside(a: Mark, b: Mark): boolean {
  const [high, low] = [Math.max(heightOf(a), heightOf(b)), Math.min(heightOf(a), heightOf(b))];
  const gap = b.left - a.right;
  return (
    Math.abs(a.bottom - b.bottom) <= OVERSHOOT * high + ROUNDED &&
    gap > -0.3 * high &&
    gap < BESIDE * high &&
    Math.max(widthOf(a), widthOf(b)) < WIDE * high &&
    high < UNLIKE * low
  );
}

/** Among so few heights there is no exception. */
const FEW = 6;

/**
 * How high what is highest on a baseline stands: the middle of the upper of two groups of heights. Of many glyphs the
 * highest may be an exception, such as a letter with an accent.
 */
function highOf(marks: readonly Mark[], baseline: number): number {
  const heights = marks
    .filter((m) => Math.abs(m.bottom - baseline) <= OVERSHOOT * heightOf(m) + 2 * ROUNDED)
    .map((m) => baseline - m.top)
    .sort((a, b) => a - b);
  const most = heights.at(heights.length > FEW ? -2 : -1) ?? 0;
  const upper = heights.filter((h) => h > 0.86 * most);
  return upper[upper.length >> 1] ?? most;
}

/** Groups marks that stand beside each other, by joining each with the nearest after it. */
function rowsOf(marks: readonly Mark[]): Mark[][] {
  const rowOf = new Map<Mark, Mark[]>();
  /** The rows by the px of their last mark's bottom: only near ones are looked at. */
  const ends = new Map<number, Mark[]>();
  for (const mark of marks) {
    const at = Math.round(mark.bottom);
    const reach = Math.ceil(OVERSHOOT * 4 * heightOf(mark) + ROUNDED) + 1;
    let best: Mark | undefined;
    for (let y = at - reach; y <= at + reach; y++)
      for (const end of ends.get(y) ?? [])
        if (end.paint === mark.paint && standBeside(end, mark) && (!best || end.right > best.right))
          best = end;
    const row = best ? (rowOf.get(best) ?? []) : [];
    row.push(mark);
    rowOf.set(mark, row);
    ends.set(at, [...(ends.get(at) ?? []), mark].slice(-40));
  }
  return [...new Set(rowOf.values())];
}

interface Row {
  marks: Mark[];
  baseline: number;
  high: number;
  left: number;
  right: number;
}

/** Of the letters of a line so many stand on its baseline, as a share: the others have descenders. */
const STANDING = 0.3;

/** The highest place at which a good part of the marks end: only descenders end below a baseline, and little above. */
function baselineOf(marks: readonly Mark[]): number {
  const letters = marks.filter((m) => !isPlain(m));
  const own = (letters.length > 0 ? letters : marks).toSorted((a, b) => a.bottom - b.bottom);
  const groups = own.map((m, i) =>
    own.slice(i).filter((o) => o.bottom - m.bottom <= OVERSHOOT * heightOf(m) + ROUNDED),
  );
  const enough = groups.find((g) => g.length >= STANDING * own.length) ?? own;
  return middleOf(enough.map((m) => m.bottom));
}

function rowFrom(marks: Mark[]): Row {
  const baseline = baselineOf(marks);
  return {
    marks,
    baseline,
    high: highOf(marks, baseline),
    left: Math.min(...marks.map((m) => m.left)),
    right: Math.max(...marks.map((m) => m.right)),
  };
}

/** Whether what stands lower or higher belongs to a row: commas, accents, quotes, letters with descenders. */
function belongsTo(m: Mark, row: Row): boolean {
  const top = row.baseline - ABOVE * row.high;
  const bottom = row.baseline + BELOW * row.high;
  return (
    m.paint === row.marks[0]?.paint &&
    widthOf(m) < WIDE * row.high &&
    m.top > top &&
    m.bottom < bottom &&
    m.right > row.left - BESIDE * row.high &&
    m.left < row.right + BESIDE * row.high
  );
}

/** Marks above each other, as the dot of an i and its stem are, as one glyph. */
function glyphsOf(marks: readonly Mark[]): Mark[] {
  const glyphs: Mark[] = [];
  for (const mark of marks.toSorted((a, b) => a.left - b.left)) {
    const last = glyphs.at(-1);
    const shared = last ? Math.min(last.right, mark.right) - mark.left : -1;
    if (last && shared > 0.5 * Math.min(widthOf(last), widthOf(mark)))
      glyphs[glyphs.length - 1] = joinedMark([last, mark]);
    else glyphs.push(mark);
  }
  return glyphs;
}

/** The rows by the px that they reach over, to find those near to a mark. */
class Bands {
  readonly #rows = new Map<number, Row[]>();

  add(row: Row): void {
    for (let y = Math.floor(row.baseline - ABOVE * row.high); y <= row.baseline + BELOW * row.high; y++)
      this.#rows.set(y, [...(this.#rows.get(y) ?? []), row]);
  }

  /** The row that a mark belongs to: of several the one that has most marks. */
  taker(mark: Mark): Row | undefined {
    return this.#rows.get(Math.floor((mark.top + mark.bottom) / 2))?.find((row) => belongsTo(mark, row));
  }
}

function take(row: Row, mark: Mark): void {
  row.marks.push(mark);
  row.left = Math.min(row.left, mark.left);
  row.right = Math.max(row.right, mark.right);
}

/** Rows on one baseline with no more than a space between them are one. */
function joinedRows(rows: readonly Row[]): Row[] {
  const joined: Row[] = [];
  for (const row of rows.toSorted((a, b) => a.left - b.left)) {
    const before = joined.findLast((other) => {
      const high = Math.max(other.high, row.high);
      return (
        other.marks[0]?.paint === row.marks[0]?.paint &&
        Math.abs(other.baseline - row.baseline) <= OVERSHOOT * high + ROUNDED &&
        Math.min(other.high, row.high) * 2 > high &&
        row.left - other.right < BESIDE * high
      );
    });
    if (before) for (const mark of row.marks) take(before, mark);
    else joined.push(row);
  }
  return joined;
}

/** The lines of glyphs that closed lines make up, those with the most glyphs first; not all of them are words. */
export function drawnLines(pieces: readonly Piece[]): DrawnGlyphs[] {
  const rows = rowsOf(marksOf(pieces))
    .map(rowFrom)
    .sort((a, b) => b.marks.length - a.marks.length);
  const bands = new Bands();
  const whole: Row[] = [];
  for (const row of rows) {
    // What hangs below or above the baselines of longer rows is theirs, mark by mark: each makes a row reach further.
    let left = row.marks;
    for (let before = Infinity; left.length > 0 && left.length < before;) {
      before = left.length;
      left = left.filter((mark) => {
        const taker = bands.taker(mark);
        if (taker) take(taker, mark);
        return !taker;
      });
    }
    if (left.length === 0) continue;
    const own = rowFrom(left);
    whole.push(own);
    bands.add(own);
  }
  return joinedRows(whole.map((row) => rowFrom(row.marks)))
    .map(({ marks }) => rowFrom(glyphsOf(marks)))
    .map(({ marks, baseline, high }) => ({ glyphs: marks, baseline, high }))
    .sort((a, b) => b.glyphs.length - a.glyphs.length);
}
