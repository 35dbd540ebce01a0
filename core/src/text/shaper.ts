import type { Font } from 'harfbuzzjs';
import { SVGPathData } from 'svg-pathdata';
import type { TextStyle } from '../model/index.js';
import { faceFor, faceKey, facesFor, resolveFamily, type Face, type Family } from './catalogue.js';
import type { FontMetrics, TextMeasurer } from './measurer.js';
import { beyondLatin } from './ranges.js';
import { toSfnt } from './sfnt.js';

/** The part of the shaping library that is used; its module loads WebAssembly, so the caller brings it. */
export type Shaping = Pick<typeof import('harfbuzzjs'), 'Blob' | 'Buffer' | 'Face' | 'Font' | 'shape'>;

interface Loaded {
  readonly font: Font;
  readonly upem: number;
  /** Whether the file has a character, as far as it was asked. */
  readonly known: Map<number, boolean>;
}

/** Styles that measure alike, and what is known of them. */
interface Kind {
  readonly size: number;
  readonly widths: Map<string, number>;
  readonly metrics: FontMetrics;
}

function has({ font, known }: Loaded, code: number): boolean {
  let found = known.get(code);
  if (found === undefined) known.set(code, (found = font.nominalGlyph(code) !== undefined));
  return found;
}

/** Characters that take the file of the one before: marks, joiners and variation selectors. */
const CLINGS = /\p{M}|\u200C|\u200D|\p{Variation_Selector}/u;
const INVISIBLE = /[\p{Cc}\p{Cf}\p{Zl}\p{Zp}]/u;
/** Characters as wide as they are high: East Asian scripts and pictographs (UAX #11). */
const WIDE =
  /[\u1100-\u115F\u2E80-\uA4CF\uAC00-\uD7A3\uF900-\uFAFF\uFE30-\uFE6F\uFF00-\uFF60\uFFE0-\uFFE6\p{Extended_Pictographic}]|[\u{20000}-\u{3FFFF}]/u;
/** The usual width of a letter whose file is not there, in type sizes. */
export const LETTER = 0.55;

const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** The letters of a text as a reader counts them (UAX #29 §3): with their marks, and pictographs that were joined as one. */
export const lettersOf = (text: string): string[] =>
  /^[\x20-\x7E]*$/.test(text) ? text.split('') : Array.from(segmenter.segment(text), (s) => s.segment);

/** How wide a letter is taken to be that no file has, in type sizes: 1 for a wide one, else {@link LETTER}; 0 for a mark alone. */
export const widthWithoutFile = (letter: string): number => {
  const [first = ''] = letter;
  return CLINGS.test(first) ? 0 : WIDE.test(first) ? 1 : LETTER;
};

/**
 * Measures with font files by HarfBuzz shaping. Files are added before measuring; a style whose file was not added is
 * an error of the caller, which {@link facesFor} prevents. What no file has is estimated.
 */
export class ShapedMeasurer implements TextMeasurer {
  readonly own: readonly Family[];
  readonly #hb: Shaping;
  readonly #fonts = new Map<string, Loaded>();
  readonly #kinds = new Map<string, Kind>();
  /** What is known of a style by the object that says it: layout asks about the same ones again and again. */
  #styles = new WeakMap<TextStyle, Kind>();

  constructor(hb: Shaping, own: readonly Family[] = []) {
    this.#hb = hb;
    this.own = own;
  }

  has(face: Face): boolean {
    return this.#fonts.has(faceKey(face));
  }

  /** Adds one font file: WOFF 1 or raw sfnt. */
  add(face: Face, file: Uint8Array): void {
    const hbFace = new this.#hb.Face(new this.#hb.Blob(toSfnt(file)));
    this.#fonts.set(faceKey(face), { font: new this.#hb.Font(hbFace), upem: hbFace.upem, known: new Map() });
    this.#kinds.clear();
    this.#styles = new WeakMap();
  }

  /** The type size that is measured: a font that stands in for a missing one may be enlarged. */
  #size(style: TextStyle): number {
    if (style.sizeAdjust === undefined || resolveFamily(style.family, this.own).exact) return style.size;
    return style.size * style.sizeAdjust;
  }

  #first(style: TextStyle): Loaded {
    const face = faceFor(style, this.own);
    const loaded = this.#fonts.get(faceKey(face));
    if (!loaded)
      throw new Error(`The font file ${faceKey(face)} was not loaded before it was measured with.`);
    return loaded;
  }

  #kind(style: TextStyle): Kind {
    let kind = this.#styles.get(style);
    if (kind) return kind;
    const size = this.#size(style);
    const key = `${faceKey(faceFor(style, this.own))}|${size}|${style.letterSpacing}`;
    kind = this.#kinds.get(key) ?? { size, widths: new Map(), metrics: this.#metrics(style, size) };
    this.#kinds.set(key, kind);
    this.#styles.set(style, kind);
    return kind;
  }

  width(text: string, style: TextStyle): number {
    if (text === '') return 0;
    const { size, widths } = this.#kind(style);
    const known = widths.get(text);
    if (known !== undefined) return known;
    // Letter spacing stands between letters as a reader counts them (CSS Text 4 §9.2).
    let sum = style.letterSpacing === 0 ? 0 : style.letterSpacing * lettersOf(text).length;
    for (const [piece, font] of this.#pieces(text, style))
      sum += font ? this.#advance(piece, font, size) : estimate(piece, size);
    widths.set(text, sum);
    return sum;
  }

  uncovered(text: string, style: TextStyle): string {
    let missing = '';
    for (const [piece, font] of this.#pieces(text, style)) if (!font) missing += piece;
    return missing;
  }

  servedBy(ch: string, style: TextStyle): Face | undefined {
    const code = ch.codePointAt(0) ?? 0;
    return facesFor(ch, style, this.own).find((face) => {
      const loaded = this.#fonts.get(faceKey(face));
      return loaded !== undefined && has(loaded, code);
    });
  }

  /** Cuts text where another file has to serve: a browser picks the file character by character. */
  #pieces(text: string, style: TextStyle): [string, Loaded | undefined][] {
    const first = this.#first(style);
    const faces = facesFor(text, style, this.own);
    if (faces.length === 1 && faces[0]?.subset === 'latin' && beyondLatin(text).length === 0)
      return [[text, first]];
    const others = faces.slice(1).flatMap((face) => this.#fonts.get(faceKey(face)) ?? []);
    const pieces: [string, Loaded | undefined][] = [];
    for (const ch of text) {
      const code = ch.codePointAt(0) ?? 0;
      const last = pieces.at(-1);
      const font =
        (last && CLINGS.test(ch) ? last[1] : undefined) ??
        [first, ...others].find((f) => has(f, code)) ??
        (INVISIBLE.test(ch) ? first : undefined);
      if (last && last[1] === font) last[0] += ch;
      else pieces.push([ch, font]);
    }
    return pieces;
  }

  #shaped(text: string, { font }: Loaded) {
    const buffer = new this.#hb.Buffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    this.#hb.shape(font, buffer);
    return buffer;
  }

  #advance(text: string, loaded: Loaded, size: number): number {
    let units = 0;
    for (const position of this.#shaped(text, loaded).getGlyphPositions()) units += position.xAdvance;
    return (units * size) / loaded.upem;
  }

  outline(text: string, style: TextStyle, at: { readonly x: number; readonly y: number }): string {
    let { x } = at;
    let d = '';
    for (const [piece, loaded] of this.#pieces(text, style)) {
      if (!loaded) continue;
      const buffer = this.#shaped(piece, loaded);
      const scale = this.#size(style) / loaded.upem;
      const positions = buffer.getGlyphPositions();
      buffer.getGlyphInfos().forEach(({ codepoint }, i) => {
        const position = positions[i];
        if (!position) return;
        const dx = x + position.xOffset * scale;
        const path = loaded.font.glyphToPath(codepoint);
        // Fonts count upwards, pictures downwards.
        if (path !== '')
          d += new SVGPathData(path)
            .matrix(scale, 0, 0, -scale, dx, at.y - position.yOffset * scale)
            .round(100)
            .encode();
        x += position.xAdvance * scale + style.letterSpacing;
      });
    }
    return d;
  }

  metrics(style: TextStyle): FontMetrics {
    return this.#kind(style).metrics;
  }

  #metrics(style: TextStyle, size: number): FontMetrics {
    const { font, upem } = this.#first(style);
    const { ascender, descender, lineGap } = font.hExtents();
    const scale = size / upem;
    return {
      ascent: Math.round(ascender * scale),
      descent: Math.round(-descender * scale),
      lineGap: lineGap * scale,
    };
  }
}

const estimate = (text: string, size: number): number =>
  lettersOf(text).reduce((sum, letter) => sum + widthWithoutFile(letter) * size, 0);
