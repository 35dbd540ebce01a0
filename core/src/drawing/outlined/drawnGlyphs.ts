import { heightOf, ROUNDING, SHAPE_KEYS, widthOf, type Bounds, type Contour } from './contours.js';

/** A closed line with those that lie within it, which is a glyph or a part of one. Px. */
export interface Mark extends Bounds {
  readonly paint: string;
  readonly pieces: readonly number[];
  readonly contours: readonly Contour[];
}

/** Marks as one. */
export const joinedMark = (marks: readonly Mark[]): Mark => ({
  left: Math.min(...marks.map((m) => m.left)),
  top: Math.min(...marks.map((m) => m.top)),
  right: Math.max(...marks.map((m) => m.right)),
  bottom: Math.max(...marks.map((m) => m.bottom)),
  paint: marks[0]?.paint ?? '',
  pieces: marks.flatMap((m) => m.pieces),
  contours: marks.flatMap((m) => m.contours),
});

/** By how much the numbers of a plain shape may be off. */
const OFF = 0.02;

/** Rectangles, ellipses and what is between them are dots, bars and boxes as often as letters: alone they tell nothing. */
export function isPlain({ contours }: Mark): boolean {
  const [only] = contours;
  if (contours.length !== 1 || !only) return false;
  const { cover, centreX, centreY, spreadX, spreadY } = only.shape;
  // Second moments by the area: a sixteenth for an ellipse, a twelfth for a rectangle.
  const isBetween = [spreadX, spreadY].every((s) => s > 1 / 16 - OFF / 2 && s < 1 / 12 + OFF / 2);
  return isBetween && cover > Math.PI / 4 - OFF && Math.abs(centreX) + Math.abs(centreY) < OFF;
}

/** A glyph that was seen in a drawing, by its outlines alone. */
interface Seen {
  readonly code: string;
  readonly mark: Mark;
}

/** Curves that were written anew lie this near to the old ones, as a share of their box. */
const REDRAWN = 2e-3;

/** Whether two marks are one glyph in perhaps two sizes. */
function isSameGlyph(a: Mark, b: Mark): boolean {
  if (a.contours.length !== b.contours.length) return false;
  const off = (m: Mark) => 1.5 * (ROUNDING / widthOf(m) + ROUNDING / heightOf(m)) + REDRAWN;
  const most = off(a) + off(b);
  if (Math.abs(Math.log((widthOf(a) * heightOf(b)) / (widthOf(b) * heightOf(a)))) > most) return false;
  return a.contours.every((c, i) => {
    const other = b.contours[i];
    if (!other) return false;
    // What is small in a glyph is rounded more.
    const own = Math.max(1, heightOf(a) / heightOf(c));
    return (
      SHAPE_KEYS.every((k) => Math.abs(c.shape[k] - other.shape[k]) < most * own) &&
      Math.abs((c.left - a.left) / widthOf(a) - (other.left - b.left) / widthOf(b)) < most &&
      Math.abs((c.top - a.top) / heightOf(a) - (other.top - b.top) / heightOf(b)) < most
    );
  });
}

/** The private use area of the first plane (Unicode §23.5). */
const PRIVATE = { from: 0xe000, count: 6400 };
/** Glyphs whose logarithms of width by height differ by less are compared. */
const BUCKET = 0.1;

/**
 * Gives every glyph of a drawing a character of the private use area, the same for the same outlines. The character
 * follows from the outlines, so that it stays when a file is opened again, and is mostly the same in another file.
 */
export class GlyphCodes {
  readonly #seen = new Map<number, Seen[]>();
  readonly #taken = new Set<number>();

  /** The glyph of this shape that was seen before. */
  find(mark: Mark): string | undefined {
    const at = bucketOf(mark);
    for (const near of [at, at - 1, at + 1])
      for (const { code, mark: other } of this.#seen.get(near) ?? [])
        if (isSameGlyph(mark, other)) return code;
    return undefined;
  }

  codeOf(mark: Mark): string {
    const found = this.find(mark);
    if (found !== undefined) return found;
    let code = numberOf(mark);
    // Where all characters are given, glyphs share one: no drawing of words has so many shapes.
    const isFull = this.#taken.size === PRIVATE.count;
    while (!isFull && this.#taken.has(code)) code = (code + 1) % PRIVATE.count;
    this.#taken.add(code);
    const character = String.fromCharCode(PRIVATE.from + code);
    const at = bucketOf(mark);
    this.#seen.set(at, [...(this.#seen.get(at) ?? []), { code: character, mark }]);
    return character;
  }
}

const bucketOf = (mark: Mark): number => Math.round(Math.log(widthOf(mark) / heightOf(mark)) / BUCKET);

/** A number from the coarse outlines of a glyph. */
function numberOf({ contours }: Mark): number {
  let hash = contours.length;
  for (const { shape } of contours)
    for (const key of SHAPE_KEYS) hash = (hash * 31 + Math.round(shape[key] * 12) + 97) % 1_000_003;
  return hash % PRIVATE.count;
}
