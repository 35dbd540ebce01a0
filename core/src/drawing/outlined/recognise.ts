import { heightOf, ROUNDING, SHAPE_KEYS, type Contour } from './contours.js';
import type { Doubt } from '../items.js';
import type { GlyphTable, Tolerances } from './glyphTable.js';
import type { Piece } from './pieces.js';

/** A line of words that was read from outlines, px. */
export interface ReadLine {
  /** Number of its style in the table. */
  readonly style: number;
  readonly size: number;
  readonly paint: string;
  readonly x: number;
  readonly baseline: number;
  /** From where the first glyph is set to where the last one is. */
  readonly span: number;
  readonly text: string;
  /** What the last glyph says. */
  readonly last: string;
  readonly glyphs: number;
  /** Letters that others of the same shape may stand for as well. */
  readonly doubtful: readonly Doubt[];
  /** The pieces that it was read from. */
  readonly pieces: readonly number[];
}

/** The closed lines of glyphs in a table that a piece may be. */
interface Matches {
  /** Numbers of shapes, those of one style together, the styles in order. */
  readonly shapes: readonly number[];
  /** Of how many styles they are. */
  readonly styles: number;
  /** How high they are in each style, em, alike ones once: letters with accents hold the same letter once more. */
  readonly heights: readonly { readonly style: number; readonly em: number }[];
}

/** A glyph at a place, px. */
interface Glyph {
  readonly glyph: number;
  readonly x: number;
  readonly baseline: number;
  readonly pieces: readonly number[];
  /** Whether its outlines are like those of few styles: dots and bars are not. */
  readonly telling: boolean;
  /** What it may say as well: nothing but its place tells it from that. */
  readonly or?: string;
}

/** Glyphs that the same pieces may be. */
type Alike = readonly Glyph[];

/** Closed lines lower than this are where outlines cross, px. */
const SPECK = 0.4;
/** Curves that were written anew lie this near to the old ones, as a share of their box. */
const REDRAWN = 8e-4;
/** A shape that more styles share tells none of them. */
const TELLING = 8;
/** A shape that more styles share is no evidence at all: rectangles and circles. */
const COMMON = 60;
/** White space beyond a glyph's advance stands for a space from so much of the font's own on: kerning adds less. */
const SPACE = 0.65;
/** Words further apart than so many of their font's spaces are texts of their own. */
const APART = 2;
/** Glyphs further apart than this are not looked at together, em. */
const BESIDE = 0.9;
/** Letters are clearly spaced from this on, em: kerned pairs seldom differ by so much. */
const CLEARLY = 0.03;
/** A style that so many glyphs were found of is surely in the drawing. */
const ESTABLISHED = 12;

/** By how much the numbers of a closed line may be off that was rounded and written anew. */
export const tolerancesOf = ({ left, right, top, bottom }: Contour): Tolerances => {
  const [w, h] = [ROUNDING / (right - left) + REDRAWN, ROUNDING / (bottom - top) + REDRAWN];
  return [w + h, 1.2 * (w + h), w, h, 0.6 * w, 0.6 * h, 0.5 * (w + h)];
};

/** By how much a size that follows from a height may be off, as a share. */
const sizeOff = ({ top, bottom }: Contour): number => (1.5 * ROUNDING) / (bottom - top) + REDRAWN;

/** Sizes as a designer types them, where the one that was found is as near as rounding brings it. */
function typedSize(size: number): number {
  for (const step of [1, 0.5, 0.25]) {
    const round = Math.round(size / step) * step;
    if (Math.abs(round - size) < 0.003 * size) return round;
  }
  return Math.round(size * 100) / 100;
}

/** Reads lines of words from closed lines, by the shapes of known glyphs. */
export function recognise(pieces: readonly Piece[], table: GlyphTable): ReadLine[] {
  const known = new Map<string, Matches>();
  const matches = pieces.map(({ contour }) => {
    const key = kindOf(contour);
    let found = known.get(key);
    if (!found) known.set(key, (found = matchesOf(contour, table)));
    return found;
  });
  const taken = new Uint8Array(pieces.length);
  const lines: ReadLine[] = [];
  const tried = new Set<string>();
  const counts = new Map<number, number>();
  for (;;) {
    const best = likeliest(pieces, matches, taken, tried);
    if (!best) return lines;
    tried.add(best.key);
    const isKnown = (counts.get(best.style) ?? 0) >= ESTABLISHED;
    const found = new Reading(pieces, matches, taken, table, best, isKnown).lines();
    for (const line of found) {
      counts.set(line.style, (counts.get(line.style) ?? 0) + line.glyphs);
      for (const p of line.pieces) taken[p] = 1;
      lines.push(line);
    }
  }
}

/** Closed lines whose numbers agree to this may be the same glyphs: it is far less than what rounding does. */
const ALIKE = 5e-4;

/** The same for closed lines that differ by nothing but rounding. */
function kindOf(contour: Contour): string {
  let key = String(Math.round(heightOf(contour) * 4));
  for (const name of SHAPE_KEYS) key += ` ${Math.round(contour.shape[name] / ALIKE)}`;
  return key;
}

/** More than the logarithms of heights in three hundredths. */
const EM_KEYS = 10_000;

/** The type sizes that are looked for, px. */
const SIZES = { least: 4, most: 400 };

function matchesOf(contour: Contour, table: GlyphTable): Matches {
  const height = heightOf(contour);
  const shapes = table.matches(contour.shape, tolerancesOf(contour)).filter((shape) => {
    const size = height / table.heightOf(shape);
    return size >= SIZES.least && size <= SIZES.most;
  });
  shapes.sort((a, b) => table.styleOf(a) - table.styleOf(b) || a - b);
  const heights = new Map<number, { style: number; em: number }>();
  const styles = new Set<number>();
  for (const shape of shapes) {
    const [style, em] = [table.styleOf(shape), table.heightOf(shape)];
    styles.add(style);
    heights.set(style * EM_KEYS + Math.round(Math.log(em) * 300), { style, em });
  }
  return { shapes, styles: styles.size, heights: styles.size > COMMON ? [] : [...heights.values()] };
}

/** The shapes of one style among those that a piece may be. */
function ofStyle({ shapes }: Matches, style: number, table: GlyphTable): readonly number[] {
  let [low, high] = [0, shapes.length];
  while (low < high) {
    const at = (low + high) >> 1;
    if (table.styleOf(shapes[at] as number) < style) low = at + 1;
    else high = at;
  }
  let end = low;
  while (end < shapes.length && table.styleOf(shapes[end] as number) === style) end++;
  return shapes.slice(low, end);
}

/** The style and size that most of what is left speaks for. */
function likeliest(
  pieces: readonly Piece[],
  matches: readonly Matches[],
  taken: Uint8Array,
  tried: ReadonlySet<string>,
): { style: number; size: number; key: string } | undefined {
  /** What is left of each kind: how many pieces, and their heights together. */
  const left = new Map<Matches, { count: number; height: number }>();
  pieces.forEach(({ contour }, i) => {
    const own = matches[i] as Matches;
    if (taken[i] === 1 || own.heights.length === 0) return;
    const kind = left.get(own);
    if (!kind) left.set(own, { count: 1, height: heightOf(contour) });
    else {
      kind.count++;
      kind.height += heightOf(contour);
    }
  });
  const votes = new Map<number, Vote[]>();
  for (const [{ heights, styles }, kind] of left) {
    const height = kind.height / kind.count;
    for (const { style, em } of heights) {
      const vote = { size: height / em, weight: kind.count / styles, height };
      const list = votes.get(style);
      if (list) list.push(vote);
      else votes.set(style, [vote]);
    }
  }
  const windows = [...votes]
    .map(([style, list]) => ({ style, ...heaviest(list.sort((a, b) => a.size - b.size)) }))
    .filter((w) => w.weight > LEAST)
    .sort((a, b) => b.weight - a.weight);
  for (const { style, size } of windows) {
    const key = `${style} ${size}`;
    if (!tried.has(key)) return { style, size, key };
  }
  return undefined;
}

/** Votes for a size, in order, and what they weigh. */
interface Vote {
  readonly size: number;
  readonly weight: number;
  readonly height: number;
}
/** Less than this speaks for nothing: one shape that a few styles share. */
const LEAST = 0.2;
/** Sizes within this of each other are one. */
const ONE_SIZE = 0.992;

/** The size that most votes agree on. The higher the glyph, the surer the size that follows from it. */
function heaviest(list: readonly Vote[]): { weight: number; size: number } {
  let [from, sum] = [0, 0];
  let best = { from: 0, to: -1, weight: 0 };
  for (let to = 0; to < list.length; to++) {
    const last = list[to] as Vote;
    sum += last.weight;
    while ((list[from] as Vote).size < last.size * ONE_SIZE) sum -= (list[from++] as Vote).weight;
    if (sum > best.weight) best = { from, to, weight: sum };
  }
  const window = list.slice(best.from, best.to + 1);
  const sure = window.reduce((s, v) => s + v.weight * v.height ** 2, 0);
  return {
    weight: best.weight,
    size: typedSize(window.reduce((s, v) => s + v.size * v.weight * v.height ** 2, 0) / sure),
  };
}

/** What is read in one style and size. */
class Reading {
  readonly #pieces: readonly Piece[];
  readonly #table: GlyphTable;
  readonly #style: number;
  readonly #size: number;
  /** The shapes of this style that each piece may be. */
  readonly #shapes = new Map<number, readonly number[]>();
  readonly #telling = new Set<number>();
  /** Whether this style has been found in the drawing already, perhaps in another size. */
  readonly #isKnown: boolean;
  /** Pieces by the cell of their lower left corner. */
  readonly #cells = new Map<number, number[]>();

  constructor(
    pieces: readonly Piece[],
    matches: readonly Matches[],
    taken: Uint8Array,
    table: GlyphTable,
    { style, size }: { readonly style: number; readonly size: number },
    isKnown: boolean,
  ) {
    this.#isKnown = isKnown;
    this.#pieces = pieces;
    this.#table = table;
    this.#style = style;
    this.#size = size;
    pieces.forEach(({ contour }, i) => {
      if (taken[i] === 1) return;
      const own = matches[i] as Matches;
      const [height, off] = [heightOf(contour), sizeOff(contour) + 0.002];
      const shapes = ofStyle(own, style, table).filter(
        (shape) => Math.abs(height / table.heightOf(shape) / size - 1) <= off,
      );
      if (shapes.length === 0) return;
      this.#shapes.set(i, shapes);
      if (own.styles <= (isKnown ? COMMON : TELLING)) this.#telling.add(i);
      const key = cellOf(Math.floor(contour.left / CELL), Math.floor(contour.bottom / CELL));
      const cell = this.#cells.get(key);
      if (cell) cell.push(i);
      else this.#cells.set(key, [i]);
    });
  }

  lines(): ReadLine[] {
    const glyphs = this.#glyphs();
    const established = this.#isKnown || glyphs.filter((g) => g.telling).length >= ESTABLISHED;
    return this.#segments(this.#slots(glyphs))
      .map((segment) => this.#told(segment))
      .flatMap((segment) => this.#apart(segment))
      .filter((segment) => isSure(segment, established, this.#table))
      .map((segment) => this.#line(segment));
  }

  /** Every glyph that all of its closed lines are there for. */
  #glyphs(): Glyph[] {
    const found: Glyph[] = [];
    for (const [i, shapes] of this.#shapes)
      for (const shape of shapes)
        for (const { glyph, contour } of this.#table.usesOf(shape)) {
          // Each glyph is looked for from its first closed line alone.
          if (contour !== 0) continue;
          const whole = this.#complete(glyph, i);
          if (whole) found.push(whole);
        }
    return found;
  }

  /** A glyph whose first closed line is a piece, where its others are there too. */
  #complete(glyph: number, first: number): Glyph | undefined {
    const size = this.#size;
    const [lead, ...others] = this.#table.contoursOf(glyph);
    const { contour, paint } = this.#pieces[first] as Piece;
    if (!lead) return undefined;
    const x = contour.left - lead.left * size;
    const baseline = contour.bottom + lead.bottom * size;
    const pieces = [first];
    for (const other of others) {
      // Rounding makes anything of what is so small.
      if (this.#table.heightOf(other.shape) * size < SPECK) continue;
      const piece = this.#at(
        x + other.left * size,
        baseline - other.bottom * size,
        other.shape,
        paint,
        pieces,
      );
      if (piece === undefined) return undefined;
      pieces.push(piece);
    }
    return { glyph, x, baseline, pieces, telling: pieces.some((p) => this.#telling.has(p)) };
  }

  #at(
    left: number,
    bottom: number,
    shape: number,
    paint: string,
    without: readonly number[],
  ): number | undefined {
    const off = this.#off();
    const at = (px: number) => Math.floor(px / CELL);
    for (let cx = at(left - off); cx <= at(left + off); cx++)
      for (let cy = at(bottom - off); cy <= at(bottom + off); cy++)
        for (const i of this.#cells.get(cellOf(cx, cy)) ?? []) {
          const piece = this.#pieces[i] as Piece;
          const near =
            Math.abs(piece.contour.left - left) <= off && Math.abs(piece.contour.bottom - bottom) <= off;
          if (near && piece.paint === paint && !without.includes(i) && this.#shapes.get(i)?.includes(shape))
            return i;
        }
    return undefined;
  }

  /** By how much places may be off, px. */
  #off(): number {
    return 2 * ROUNDING + 0.003 * this.#size;
  }

  /** What each piece may be: of glyphs that share pieces those that take most stay, and those that take the same. */
  #slots(glyphs: readonly Glyph[]): Alike[] {
    const byPieces = new Map<string, Glyph[]>();
    for (const g of glyphs) {
      const key = g.pieces.toSorted((a, b) => a - b).join();
      byPieces.set(key, [...(byPieces.get(key) ?? []), g]);
    }
    const used = new Set<number>();
    return [...byPieces.values()]
      .sort(
        (a, b) =>
          this.#isSign(a) - this.#isSign(b) || (b[0]?.pieces.length ?? 0) - (a[0]?.pieces.length ?? 0),
      )
      .filter(([g]) => {
        if (!g || g.pieces.some((p) => used.has(p))) return false;
        for (const p of g.pieces) used.add(p);
        return true;
      })
      .sort((a, b) => this.#leftOf(a) - this.#leftOf(b));
  }

  /** Signs that put letters together, as that of the peseta does, come after the letters: 1 for them, 0 for others. */
  #isSign(alike: Alike): number {
    return alike.every((g) => seldom(this.#text(g)) > SIGN) ? 1 : 0;
  }

  #leftOf([g]: Alike): number {
    return Math.min(...(g?.pieces ?? []).map((p) => this.#pieces[p]?.contour.left ?? 0));
  }

  /**
   * What stands side by side on one baseline and is filled alike. Dots and bars, which tell no style, join what letters
   * make up.
   */
  #segments(slots: readonly Alike[]): Alike[][] {
    const [off, far] = [this.#off(), BESIDE * this.#size];
    interface Segment {
      readonly paint: string;
      readonly baseline: number;
      left: number;
      right: number;
      readonly slots: Alike[];
    }
    const segments: Segment[] = [];
    /** The segments by the cell of their baseline, {@link CELL} px high. */
    const rows = new Map<number, Segment[]>();
    const rowOf = (baseline: number) => Math.floor(baseline / CELL);
    const nearBaseline = (slot: Alike): Segment[] => {
      const cells = new Set(slot.flatMap((g) => [-1, 0, 1].map((d) => rowOf(g.baseline) + d)));
      return [...cells].flatMap((cell) => rows.get(cell) ?? []);
    };
    const paintOf = ([g]: Alike) => this.#pieces[g?.pieces[0] as number]?.paint ?? '';
    /** The part of a slot that stands on a segment's baseline. */
    const onBaseline = (slot: Alike, { baseline }: Segment) =>
      slot.filter((g) => Math.abs(g.baseline - baseline) <= off);
    const join = (slot: Alike): boolean => {
      const [left, paint] = [this.#leftOf(slot), paintOf(slot)];
      const near = nearBaseline(slot)
        .filter((s) => s.paint === paint && left > s.left - 2 * far && left < s.right + far)
        .map((segment) => ({ segment, fitting: onBaseline(slot, segment) }))
        .filter(({ fitting }) => fitting.length > 0)
        .sort(
          (a, b) =>
            Math.abs((a.fitting[0]?.baseline ?? 0) - a.segment.baseline) -
            Math.abs((b.fitting[0]?.baseline ?? 0) - b.segment.baseline),
        );
      const [best] = near;
      if (!best) return false;
      const { segment, fitting } = best;
      segment.slots.push(fitting);
      segment.left = Math.min(segment.left, left);
      segment.right = Math.max(segment.right, ...fitting.map((g) => this.#endOf(g)));
      return true;
    };
    for (const slot of slots) {
      const [g] = slot;
      if (!g?.telling || join(slot)) continue;
      const own = slot.filter((other) => Math.abs(other.baseline - g.baseline) <= off);
      const segment: Segment = {
        paint: paintOf(slot),
        baseline: g.baseline,
        left: this.#leftOf(slot),
        right: Math.max(...own.map((other) => this.#endOf(other))),
        slots: [own],
      };
      segments.push(segment);
      rows.set(rowOf(g.baseline), [...(rows.get(rowOf(g.baseline)) ?? []), segment]);
    }
    // One beside the other may reach further: those that found no place are tried again.
    let waiting = slots.filter(([g]) => g?.telling === false);
    for (let before = Infinity; waiting.length < before;) {
      before = waiting.length;
      waiting = waiting.filter((slot) => !join(slot));
    }
    // Letters that tell no style may have closed the gap between two.
    const whole: Segment[] = [];
    for (const segment of segments.sort((a, b) => a.left - b.left)) {
      const before = whole.find(
        (s) =>
          s.paint === segment.paint &&
          Math.abs(s.baseline - segment.baseline) <= off &&
          segment.left < s.right + far,
      );
      if (!before) {
        whole.push(segment);
        continue;
      }
      before.slots.push(...segment.slots);
      before.right = Math.max(before.right, segment.right);
    }
    return whole.map((s) => s.slots.sort((a, b) => this.#leftOf(a) - this.#leftOf(b)));
  }

  /**
   * Tells glyphs with the same outlines apart: the side bearings of the right one leave no gap to its neighbours, and
   * capitals and figures seldom stand between small letters. The least sum over the line, by dynamic programming.
   */
  #told(row: readonly Alike[]): Glyph[] {
    const size = this.#size;
    const space = SPACE * this.#space();
    // Only what stands alike whatever it is tells how letters are spaced.
    const sure = row.map((alike) => (this.#standAlike(alike) ? alike[0] : undefined));
    const gaps = sure.slice(1).flatMap((g, i) => {
      const before = sure[i];
      return g && before ? [g.x - this.#endOf(before)] : [];
    });
    const spaced = this.#spacing(gaps);
    /** What speaks against one glyph after another, em. */
    const beside = (before: Glyph | undefined, g: Glyph | undefined): number => {
      if (!before || !g) return 0;
      const gap = (g.x - this.#endOf(before) - spaced) / size;
      // A wide gap is a space, whatever stands there.
      const open = gap < space ? Math.min(Math.abs(gap), KERNED) : 0;
      return open + unlikely(this.#text(before), this.#text(g), gap >= space);
    };
    let ways: { cost: number; glyphs: Glyph[] }[] = [{ cost: 0, glyphs: [] }];
    for (const alike of row) {
      ways = alike.map((g) => {
        const steps = ways.map((way) => ({ way, cost: way.cost + beside(way.glyphs.at(-1), g) }));
        const best = steps.reduce((a, b) => (b.cost < a.cost ? b : a));
        return { cost: best.cost + seldom(this.#text(g)), glyphs: [...best.way.glyphs, g] };
      });
    }
    const { glyphs } = ways.reduce((a, b) => (b.cost < a.cost ? b : a));
    return glyphs.map((g, i) => {
      const here = (other: Glyph) =>
        beside(glyphs[i - 1], other) + seldom(this.#text(other)) + beside(other, glyphs[i + 1]);
      const rival = row[i]?.find(
        (o) => this.#text(o) !== this.#text(g) && here(o) - here(g) < ROUNDING / size,
      );
      return rival ? { ...g, or: this.#text(rival) } : g;
    });
  }

  /** Whether all that pieces may be have the same origin and advance. */
  #standAlike(alike: Alike): boolean {
    const [first] = alike;
    return alike.every(
      (g) =>
        first !== undefined &&
        Math.abs(g.x - first.x) < ROUNDING &&
        Math.abs(this.#endOf(g) - this.#endOf(first)) < ROUNDING,
    );
  }

  /** The width of the font's space, em. */
  #space(): number {
    return this.#table.styles[this.#style]?.space ?? 0;
  }

  #text(g: Glyph): string {
    return this.#table.textOf(g.glyph);
  }

  /** Glyphs cut where they stand too far from each other for one text. */
  #apart(row: readonly Glyph[]): Glyph[][] {
    const gaps = row.slice(1).map((g, i) => g.x - this.#endOf(row[i] as Glyph));
    const far = this.#spacing(gaps) * 2 + APART * this.#space() * this.#size;
    const texts: Glyph[][] = [];
    row.forEach((g, i) => {
      if (i > 0 && (gaps[i - 1] as number) < far) texts.at(-1)?.push(g);
      else texts.push([g]);
    });
    return texts;
  }

  #endOf(g: Glyph): number {
    return g.x + this.#table.advanceOf(g.glyph) * this.#size;
  }

  /** The letter-spacing that gaps between glyphs speak for, px: none where most letters stand as their font has them. */
  #spacing(gaps: readonly number[]): number {
    const size = this.#size;
    const within = gaps.filter((g) => g < 0.35 * size).sort((a, b) => a - b);
    if (within.length < 3) return 0;
    const near = this.#off() + 0.5 * CLEARLY * size;
    const counts = within.map((g) => within.filter((other) => Math.abs(other - g) < near).length);
    const most = Math.max(...counts);
    // Spaces are alike too: of gaps that many pairs have, the narrowest are those between letters.
    const from = counts.findIndex((n) => n >= 0.4 * most);
    const group = within.filter((g) => Math.abs(g - (within[from] as number)) < near);
    const middle = group[group.length >> 1] as number;
    const off = Math.abs(middle) > CLEARLY * size ? near : this.#off();
    const alike = within.filter((g) => Math.abs(g - middle) < off).length;
    const none = within.filter((g) => Math.abs(g) < off).length;
    return Math.abs(middle) > ROUNDING && none < alike ? middle : 0;
  }

  #line(segment: readonly Glyph[]): ReadLine {
    const size = this.#size;
    const gaps = segment.slice(1).map((g, i) => g.x - this.#endOf(segment[i] as Glyph));
    const spaced = this.#spacing(gaps);
    let text = '';
    segment.forEach((g, i) => {
      if (i > 0 && (gaps[i - 1] ?? 0) - spaced > SPACE * this.#space() * size) text += ' ';
      text += this.#table.textOf(g.glyph);
    });
    const [first, last] = [segment[0] as Glyph, segment.at(-1) as Glyph];
    const baselines = segment.map((g) => g.baseline).sort((a, b) => a - b);
    return {
      style: this.#style,
      size,
      paint: this.#pieces[first.pieces[0] as number]?.paint ?? '',
      x: first.x,
      baseline: baselines[baselines.length >> 1] as number,
      span: last.x - first.x,
      text,
      last: this.#text(last),
      glyphs: segment.length,
      doubtful: segment.flatMap((g) => (g.or === undefined ? [] : [{ read: this.#text(g), or: g.or }])),
      pieces: segment.flatMap((g) => g.pieces),
    };
  }
}

/** The side of a cell, px. */
const CELL = 2;
/** The number of a cell: no drawing is a million cells high. */
const cellOf = (column: number, row: number): number => column * 1e6 + row;

/** How much speaks against two characters side by side, em; what is of one script and case is usual. */
function unlikely(a: string, b: string, spaced: boolean): number {
  const [left, right] = [a.at(-1) ?? '', b.at(0) ?? ''];
  if (!/[\p{L}\p{N}]/u.test(left) || !/[\p{L}\p{N}]/u.test(right) || spaced) return 0;
  if (scriptOf(left) !== scriptOf(right) && !/\p{N}/u.test(left + right)) return FOREIGN;
  const mixed = /\p{N}/u.test(left) !== /\p{N}/u.test(right);
  return mixed || (/\p{Ll}/u.test(left) && /\p{Lu}/u.test(right)) ? MIXED : 0;
}

/** How much speaks against a character by itself, em: what keyboards have is usual. */
function seldom(text: string): number {
  const code = text.codePointAt(0) ?? 0;
  // The least difference keeps the order of the numbers.
  return code * 1e-8 + (code < 0x7f ? 0 : USUAL.test(text) ? 0.02 : 0.15);
}
/** Letters, and marks that are typed in running text. */
const USUAL = /^[\p{L}\u2013\u2014\u2018\u2019\u201C\u201D\u2022\u2026\u20AC\u00A3\u00B0\u00B7\u00D7]/u;
/** What so much speaks against is no letter and no usual mark. */
const SIGN = 0.1;
/** No pair is kerned by more than this, em. */
const KERNED = 0.1;
const MIXED = 0.02;
const FOREIGN = 0.2;

const scriptOf = (ch: string): string =>
  /\p{Script=Latin}/u.test(ch)
    ? 'Latin'
    : /\p{Script=Greek}/u.test(ch)
      ? 'Greek'
      : /\p{Script=Cyrillic}/u.test(ch)
        ? 'Cyrillic'
        : 'other';

const WRITTEN = /^[\p{L}\p{N}]+$/u;

/** Whether glyphs that stand together are words, and not an icon that happens to look like a letter. */
function isSure(segment: readonly Glyph[], established: boolean, table: GlyphTable): boolean {
  const telling = segment.filter((g) => g.telling);
  // Bars side by side may be letters of any font: two that are alike tell no more than one.
  const unlike = new Set(telling.map((g) => g.glyph)).size;
  if (
    unlike >= 2 ||
    (telling.length >= 2 && established) ||
    (telling.length === 1 && segment.length >= 2 && established)
  )
    return true;
  const [only] = telling;
  return only !== undefined && established && WRITTEN.test(table.textOf(only.glyph));
}
