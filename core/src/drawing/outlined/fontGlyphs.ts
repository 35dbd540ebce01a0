import { toSfnt, type OwnFont, type Shaping } from '../../text/index.js';
import { closed, ContourPen } from './contours.js';
import { glyphTable, type GlyphEntry, type GlyphTable } from './glyphTable.js';

/** What a glyph says by its name: `one.tf` is a one, `f_i` an f and an i (Adobe Glyph List for New Fonts §2). */
function saidByName(name: string, codeOf: (name: string) => string | undefined): string | undefined {
  const [base = ''] = name.split('.');
  if (base === '') return undefined;
  const parts = base.split('_').map((part) => {
    const hex = /^(?:uni|u)([0-9A-F]{4,6})$/.exec(part)?.[1];
    return hex === undefined ? codeOf(part) : String.fromCodePoint(Number.parseInt(hex, 16));
  });
  return parts.every((p) => p !== undefined) ? parts.join('') : undefined;
}

/** Letters that fonts draw as one glyph. */
const LIGATURES = [
  'ff',
  'fi',
  'fl',
  'ffi',
  'ffl',
  'fj',
  'ffj',
  'fb',
  'fh',
  'fk',
  'ft',
  'fft',
  'tt',
  'ti',
  'tti',
  'Th',
  'ct',
  'st',
];

/** Characters that say the same as others that are typed: ligatures, and forms for lines that run from the right. */
const typed = (text: string): string =>
  /[\u0132\u0133\u013F\u0140\u0149\u01C4-\u01CC\u01F1-\u01F3\uFB00-\uFB4F\uFB50-\uFDFF\uFE70-\uFEFF]/.test(
    text,
  )
    ? text.normalize('NFKC')
    : text;

/** The space of a font without one, em. */
const USUAL_SPACE = 0.25;

/**
 * The glyphs of a font file that show something, and the width of its space, in em; glyphs that nobody can type are left
 * out.
 */
export function glyphsOfFont(hb: Shaping, file: Uint8Array): { glyphs: GlyphEntry[]; space: number } {
  const face = new hb.Face(new hb.Blob(toSfnt(file)));
  const font = new hb.Font(face);
  const maxp = face.referenceTable('maxp');
  const count = maxp ? new DataView(maxp.buffer, maxp.byteOffset, maxp.byteLength).getUint16(4) : 0;
  const texts = new Map<number, string>();
  for (const code of [...face.collectUnicodes()].sort((a, b) => a - b)) {
    const glyph = font.nominalGlyph(code);
    if (glyph !== undefined && !texts.has(glyph)) texts.set(glyph, typed(String.fromCodePoint(code)));
  }
  for (const word of LIGATURES) {
    const buffer = new hb.Buffer();
    buffer.addText(word);
    buffer.guessSegmentProperties();
    hb.shape(font, buffer);
    const shaped = buffer.getGlyphInfos();
    const glyph = shaped[0]?.codepoint;
    if (shaped.length === 1 && glyph !== undefined && !texts.has(glyph)) texts.set(glyph, word);
  }
  const codeOf = (name: string): string | undefined => {
    const glyph = font.glyphFromName(name);
    return glyph === undefined ? undefined : texts.get(glyph);
  };
  const found: GlyphEntry[] = [];
  for (let glyph = 0; glyph < count; glyph++) {
    const text = texts.get(glyph) ?? saidByName(font.glyphName(glyph), codeOf);
    if (text === undefined || text.trim() === '') continue;
    const pen = new ContourPen();
    for (const { type, values } of font.glyphToJson(glyph)) {
      const v = values.map((n, i) => (i % 2 === 0 ? n : -n) / face.upem) as [
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      if (type === 'M') pen.moveTo(v[0], v[1]);
      else if (type === 'L') pen.lineTo(v[0], v[1]);
      else if (type === 'Q') pen.quadTo(v[0], v[1], v[2], v[3]);
      else if (type === 'C') pen.curveTo(...v);
      else pen.close();
    }
    pen.end();
    const contours = closed(pen.lines).map(({ left, bottom, top, shape }) => ({
      shape,
      left,
      bottom: -bottom,
      height: bottom - top,
    }));
    // The highest first: by it a glyph is looked for.
    contours.sort((a, b) => b.height - a.height);
    if (contours.length > 0) found.push({ text, advance: font.glyphHAdvance(glyph) / face.upem, contours });
  }
  const blank = font.nominalGlyph(0x20);
  const space = blank === undefined ? USUAL_SPACE : font.glyphHAdvance(blank) / face.upem;
  return { glyphs: found, space };
}

/** The table of the glyphs of fonts that the user added, by which words that are outlines are read. */
export const tableOfFonts = (
  hb: Shaping,
  fonts: readonly (Omit<OwnFont, 'id'> & { readonly bytes: Uint8Array })[],
): GlyphTable =>
  glyphTable(
    fonts.map(({ family, weight, italic, bytes }) => {
      const { glyphs, space } = glyphsOfFont(hb, bytes);
      return { style: { family, weight, italic, space }, glyphs };
    }),
  );
