import { strFromU8, strToU8 } from 'fflate';
import { SHAPE_KEYS, type Shape } from './contours.js';

/** A style whose glyphs are in a table. */
export interface GlyphStyle {
  readonly family: string;
  readonly weight: number;
  readonly italic: boolean;
  /** How wide its space is, em. */
  readonly space: number;
}

/** One closed line of a glyph: its shape by number, and its box's left and lower edge from the origin, upwards, em. */
export interface GlyphContour {
  readonly shape: number;
  readonly left: number;
  readonly bottom: number;
}

/** A glyph that has a shape as a closed line, and which of its lines that is. */
export interface GlyphUse {
  readonly glyph: number;
  readonly contour: number;
}

/** A glyph as it is put into a table: what it says, its advance and its closed lines with their heights, em. */
export interface GlyphEntry {
  readonly text: string;
  readonly advance: number;
  readonly contours: readonly {
    readonly shape: Shape;
    readonly left: number;
    readonly bottom: number;
    readonly height: number;
  }[];
}

/** The lists of numbers that a table consists of, in the order in which they stand in a file. */
interface Columns {
  /** By shape, in the order of `aspect`: what {@link SHAPE_KEYS} names, the height in em and the style. */
  readonly numbers: readonly Float32Array[];
  readonly height: Float32Array;
  readonly style: Uint16Array;
  /** The uses of shape i are those from `usesFrom[i]` up to `usesFrom[i + 1]`: contour numbers. */
  readonly usesFrom: Uint32Array;
  readonly uses: Uint32Array;
  /** By glyph. */
  readonly text: Uint32Array;
  readonly advance: Float32Array;
  readonly contoursFrom: Uint32Array;
  /** By contour. */
  readonly glyph: Uint32Array;
  readonly shape: Uint32Array;
  readonly left: Float32Array;
  readonly bottom: Float32Array;
}

interface Header {
  readonly styles: readonly GlyphStyle[];
  readonly texts: readonly string[];
  readonly shapes: number;
  readonly uses: number;
  readonly glyphs: number;
}

/** Shapes of one style that differ by less than this are one: copies of a dot or an accent. */
const SAME = 2e-4;
const MAGIC = 0x54_46_47_31;

/** By how much the numbers of a shape may be off, in the order of {@link SHAPE_KEYS}. */
export type Tolerances = readonly [number, number, number, number, number, number, number];

/**
 * The glyphs of many styles, found by the shapes of their closed lines. Positions and sizes are in em, upwards from the
 * baseline.
 */
export class GlyphTable {
  readonly styles: readonly GlyphStyle[];
  readonly texts: readonly string[];
  readonly #columns: Columns;
  /** What was asked for before: a text asks for its few letters again and again. */
  readonly #contours = new Map<number, readonly GlyphContour[]>();
  readonly #uses = new Map<number, readonly GlyphUse[]>();

  constructor(header: Header, columns: Columns) {
    this.styles = header.styles;
    this.texts = header.texts;
    this.#columns = columns;
  }

  get shapeCount(): number {
    return this.#columns.height.length;
  }

  get glyphCount(): number {
    return this.#columns.text.length;
  }

  styleOf(shape: number): number {
    return this.#columns.style[shape] as number;
  }

  heightOf(shape: number): number {
    return this.#columns.height[shape] as number;
  }

  textOf(glyph: number): string {
    return this.texts[this.#columns.text[glyph] as number] ?? '';
  }

  advanceOf(glyph: number): number {
    return this.#columns.advance[glyph] as number;
  }

  contoursOf(glyph: number): readonly GlyphContour[] {
    const known = this.#contours.get(glyph);
    if (known) return known;
    const { contoursFrom, shape, left, bottom } = this.#columns;
    const found: GlyphContour[] = [];
    this.#contours.set(glyph, found);
    for (let i = contoursFrom[glyph] as number; i < (contoursFrom[glyph + 1] as number); i++)
      found.push({ shape: shape[i] as number, left: left[i] as number, bottom: bottom[i] as number });
    return found;
  }

  /** The glyphs that have a shape as a closed line, each with the place of that line in it. */
  usesOf(shape: number): readonly GlyphUse[] {
    const known = this.#uses.get(shape);
    if (known) return known;
    const { usesFrom, uses, glyph, contoursFrom } = this.#columns;
    const found: GlyphUse[] = [];
    this.#uses.set(shape, found);
    for (let i = usesFrom[shape] as number; i < (usesFrom[shape + 1] as number); i++) {
      const contour = uses[i] as number;
      const own = glyph[contour] as number;
      found.push({ glyph: own, contour: contour - (contoursFrom[own] as number) });
    }
    return found;
  }

  /** The shapes that a shape may be, off by no more than the tolerances. */
  matches(shape: Shape, off: Tolerances): number[] {
    const { numbers } = this.#columns;
    const [aspects] = numbers as [Float32Array];
    const wanted = SHAPE_KEYS.map((k) => shape[k]);
    const found: number[] = [];
    for (let i = firstFrom(aspects, shape.aspect - off[0]); i < aspects.length; i++) {
      if ((aspects[i] as number) > shape.aspect + off[0]) break;
      let k = 1;
      while (
        k < numbers.length &&
        Math.abs(((numbers[k] as Float32Array)[i] as number) - (wanted[k] as number)) <= (off[k] as number)
      )
        k++;
      if (k === numbers.length) found.push(i);
    }
    return found;
  }

  /** The table as the bytes of a file, which {@link fromBytes} reads. */
  toBytes(): Uint8Array {
    const head = strToU8(JSON.stringify(this.#header()));
    const lists = listsOf(this.#columns);
    const start = aligned(8 + head.length);
    const out = new Uint8Array(lists.reduce((sum, list) => sum + aligned(list.byteLength), start));
    const view = new DataView(out.buffer);
    view.setUint32(0, MAGIC);
    view.setUint32(4, head.length);
    out.set(head, 8);
    let place = start;
    for (const list of lists) {
      out.set(new Uint8Array(list.buffer, list.byteOffset, list.byteLength), place);
      place += aligned(list.byteLength);
    }
    return out;
  }

  #header(): Header {
    const { height, uses, text } = this.#columns;
    return {
      styles: this.styles,
      texts: this.texts,
      shapes: height.length,
      uses: uses.length,
      glyphs: text.length,
    };
  }

  /** The table in the bytes of a file; throws a RangeError for bytes that are none. */
  static fromBytes(bytes: Uint8Array): GlyphTable {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    if (bytes.byteLength < 8 || view.getUint32(0) !== MAGIC)
      throw new RangeError('The table of glyphs is not one: make it again with “npm run prepare”.');
    const length = view.getUint32(4);
    const header = JSON.parse(strFromU8(bytes.subarray(8, 8 + length))) as Header;
    let place = bytes.byteOffset + aligned(8 + length);
    const take = <T extends { readonly byteLength: number }>(
      make: new (buffer: ArrayBufferLike, at: number, count: number) => T,
      count: number,
    ): T => {
      const list = new make(bytes.buffer, place, count);
      place += aligned(list.byteLength);
      return list;
    };
    const { shapes, uses, glyphs } = header;
    return new GlyphTable(header, {
      numbers: SHAPE_KEYS.map(() => take(Float32Array, shapes)),
      height: take(Float32Array, shapes),
      style: take(Uint16Array, shapes),
      usesFrom: take(Uint32Array, shapes + 1),
      uses: take(Uint32Array, uses),
      text: take(Uint32Array, glyphs),
      advance: take(Float32Array, glyphs),
      contoursFrom: take(Uint32Array, glyphs + 1),
      glyph: take(Uint32Array, uses),
      shape: take(Uint32Array, uses),
      left: take(Float32Array, uses),
      bottom: take(Float32Array, uses),
    });
  }
}

const aligned = (n: number): number => (n + 7) & ~7;

const listsOf = (c: Columns): readonly (Float32Array | Uint16Array | Uint32Array)[] => [
  ...c.numbers,
  c.height,
  c.style,
  c.usesFrom,
  c.uses,
  c.text,
  c.advance,
  c.contoursFrom,
  c.glyph,
  c.shape,
  c.left,
  c.bottom,
];

/** The index of the first number that is at least `from`, in a list in order. */
function firstFrom(list: Float32Array, from: number): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((list[middle] as number) < from) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Makes a table from the glyphs of some styles. */
export function glyphTable(
  styles: readonly { readonly style: GlyphStyle; readonly glyphs: readonly GlyphEntry[] }[],
): GlyphTable {
  const shapes: { shape: Shape; height: number; style: number }[] = [];
  const contours: { glyph: number; shape: number; left: number; bottom: number }[] = [];
  const texts = new Map<string, number>();
  const glyphs: { text: number; advance: number; from: number }[] = [];
  for (const [n, { glyphs: own }] of styles.entries()) {
    /** The shapes of this style by their rounded numbers: an accent is in many letters. */
    const known = new Map<string, number>();
    for (const { text, advance, contours: lines } of own) {
      const saying = texts.get(text) ?? texts.size;
      texts.set(text, saying);
      glyphs.push({ text: saying, advance, from: contours.length });
      for (const { shape, left, bottom, height } of lines) {
        const key = [...SHAPE_KEYS.map((k) => shape[k]), height].map((v) => Math.round(v / SAME)).join();
        let at = known.get(key);
        if (at === undefined) {
          known.set(key, (at = shapes.length));
          shapes.push({ shape, height, style: n });
        }
        contours.push({ glyph: glyphs.length - 1, shape: at, left, bottom });
      }
    }
  }
  const order = shapes.map((_, i) => i).sort((a, b) => aspectOf(shapes, a) - aspectOf(shapes, b));
  const rank = new Uint32Array(order.length);
  order.forEach((old, now) => (rank[old] = now));
  const sorted = order.map((i) => shapes[i] as (typeof shapes)[number]);
  const byShape = contours
    .map((c, i) => ({ shape: rank[c.shape] as number, contour: i }))
    .sort((a, b) => a.shape - b.shape || a.contour - b.contour);
  const usesFrom = new Uint32Array(sorted.length + 1);
  for (const { shape } of byShape) usesFrom[shape + 1] = (usesFrom[shape + 1] as number) + 1;
  for (let i = 0; i < sorted.length; i++)
    usesFrom[i + 1] = (usesFrom[i + 1] as number) + (usesFrom[i] as number);
  return new GlyphTable(
    {
      styles: styles.map((s) => s.style),
      texts: [...texts.keys()],
      shapes: sorted.length,
      uses: contours.length,
      glyphs: glyphs.length,
    },
    {
      numbers: SHAPE_KEYS.map((k) => Float32Array.from(sorted, (s) => s.shape[k])),
      height: Float32Array.from(sorted, (s) => s.height),
      style: Uint16Array.from(sorted, (s) => s.style),
      usesFrom,
      uses: Uint32Array.from(byShape, (u) => u.contour),
      text: Uint32Array.from(glyphs, (g) => g.text),
      advance: Float32Array.from(glyphs, (g) => g.advance),
      contoursFrom: Uint32Array.from([...glyphs.map((g) => g.from), contours.length]),
      glyph: Uint32Array.from(contours, (c) => c.glyph),
      shape: Uint32Array.from(contours, (c) => rank[c.shape] as number),
      left: Float32Array.from(contours, (c) => c.left),
      bottom: Float32Array.from(contours, (c) => c.bottom),
    },
  );
}

const aspectOf = (shapes: readonly { shape: Shape }[], i: number): number => shapes[i]?.shape.aspect ?? 0;
