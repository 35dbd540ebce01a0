import * as hb from 'harfbuzzjs';
import { tableOfFonts, type GlyphTable } from '@tinfold/core/drawing';
import { ownFontFor, type OwnFont } from '@tinfold/core/text';
import type { OwnFile } from './fonts.js';

/** The fonts that the user added to a project, and their files (raw sfnt). */
export interface OwnFonts {
  readonly fonts: readonly OwnFont[];
  /** The file of a font by its id; undefined where it is gone. */
  readonly file: (id: string) => Promise<Uint8Array | undefined>;
}

export const NO_FONTS: OwnFonts = { fonts: [], file: () => Promise.resolve(undefined) };

/** The files of a project's fonts, asked for by face. */
export const ownFileOf =
  ({ fonts, file }: OwnFonts): OwnFile =>
  async (face) => {
    const font = ownFontFor(fonts, face);
    return font && file(font.id);
  };

/** The glyphs of a project's fonts, by which words that are outlines are read. */
export async function ownGlyphs({ fonts, file }: OwnFonts): Promise<GlyphTable> {
  const files = fonts.map(async (font) => {
    const bytes = await file(font.id);
    return bytes ? [{ ...font, bytes }] : [];
  });
  return tableOfFonts(hb, (await Promise.all(files)).flat());
}
