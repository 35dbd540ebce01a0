import type { Font } from 'harfbuzzjs';
import type { TextStyle } from '../model/index.js';
import { faceFor, faceKey, type Face } from './catalogue.js';
import type { FontMetrics, TextMeasurer } from './measurer.js';
import { toSfnt } from './sfnt.js';

/** The part of the shaping library that is used; its module loads WebAssembly, so the caller brings it. */
export type Shaping = Pick<typeof import('harfbuzzjs'), 'Blob' | 'Buffer' | 'Face' | 'Font' | 'shape'>;

interface Loaded {
  readonly font: Font;
  readonly upem: number;
}

/**
 * Measures with the shipped font files by HarfBuzz shaping. Files are added before measuring; a style whose file was
 * not added is an error of the caller, which {@link facesFor} prevents.
 */
export class ShapedMeasurer implements TextMeasurer {
  readonly #hb: Shaping;
  readonly #fonts = new Map<string, Loaded>();
  readonly #widths = new Map<string, number>();

  constructor(hb: Shaping) {
    this.#hb = hb;
  }

  has(face: Face): boolean {
    return this.#fonts.has(faceKey(face));
  }

  /** Adds one font file: WOFF 1 or raw sfnt. */
  add(face: Face, file: Uint8Array): void {
    const hbFace = new this.#hb.Face(new this.#hb.Blob(toSfnt(file)));
    this.#fonts.set(faceKey(face), { font: new this.#hb.Font(hbFace), upem: hbFace.upem });
    this.#widths.clear();
  }

  #loaded(face: Face): Loaded | undefined {
    return this.#fonts.get(faceKey(face));
  }

  width(text: string, style: TextStyle): number {
    if (text === '') return 0;
    const basic = faceFor(style);
    const key = `${faceKey(basic)}|${style.size}|${style.letterSpacing}|${text}`;
    const known = this.#widths.get(key);
    if (known !== undefined) return known;
    const latin = this.#loaded(basic);
    if (!latin)
      throw new Error(
        `The font file ${faceKey(basic)} was not loaded before measuring “${text.slice(0, 40)}”.`,
      );
    const extended = this.#loaded({ ...basic, subset: 'latin-ext' });
    let sum = 0;
    for (const [piece, font] of this.#pieces(text, latin, extended))
      sum += this.#advance(piece, font, style.size);
    sum += style.letterSpacing * Array.from(text).length;
    this.#widths.set(key, sum);
    return sum;
  }

  /** Cuts text where another file has to serve: a browser picks the file character by character. */
  *#pieces(text: string, latin: Loaded, extended: Loaded | undefined): Generator<[string, Loaded]> {
    if (!extended) {
      yield [text, latin];
      return;
    }
    let piece = '';
    let current = latin;
    for (const ch of text) {
      const code = ch.codePointAt(0) ?? 0;
      const next =
        latin.font.nominalGlyph(code) === undefined && extended.font.nominalGlyph(code) !== undefined
          ? extended
          : latin;
      if (next !== current && piece !== '') {
        yield [piece, current];
        piece = '';
      }
      current = next;
      piece += ch;
    }
    if (piece !== '') yield [piece, current];
  }

  #advance(text: string, { font, upem }: Loaded, size: number): number {
    const buffer = new this.#hb.Buffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    this.#hb.shape(font, buffer);
    let units = 0;
    for (const position of buffer.getGlyphPositions()) units += position.xAdvance;
    return (units * size) / upem;
  }

  metrics(style: TextStyle): FontMetrics {
    const face = faceFor(style);
    const loaded = this.#loaded(face);
    if (!loaded)
      throw new Error(`The font file ${faceKey(face)} was not loaded before its metrics were asked for.`);
    const { ascender, descender, lineGap } = loaded.font.hExtents();
    const scale = style.size / loaded.upem;
    return {
      ascent: Math.round(ascender * scale),
      descent: Math.round(-descender * scale),
      lineGap: lineGap * scale,
    };
  }
}
