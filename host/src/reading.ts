import { NO_DECISIONS, openDrawing, type Drawing, type GlyphTable } from '@tinfold/core/drawing';
import { alignDrawings, readSeveral, type Aligned, type ReadOptions } from '@tinfold/core/infer';
import type { Structure } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from './fonts.js';
import { shippedGlyphs } from './glyphs.js';

/** The text of a drawing's file, and what the screen is to be called. */
export interface Source {
  readonly text: string;
  readonly name: string;
}

/** Drawings of one screen, in the order given, with the structure read from them. */
export interface Reading {
  readonly drawings: readonly Aligned[];
  readonly structure: Structure;
  readonly measurer: TextMeasurer;
}

/**
 * Reads the sources (SVG, HTML or JSON) of drawings of one screen whole: import, measuring, structure. Throws a
 * DrawingError for a file that cannot be read. Words that are outlines are read by the tables of `glyphs`.
 */
export async function readSources(
  sources: readonly Source[],
  options: ReadOptions = {},
  glyphs: () => readonly GlyphTable[] = () => [shippedGlyphs()],
): Promise<Reading> {
  const opened = sources
    .map(({ text, name }) => openDrawing(text, name))
    .map((o) => (o.outlined ? o.withGlyphs(glyphs()) : o));
  const measurer = await loadMeasurer(opened.flatMap((o) => o.faces()));
  const drawings = alignDrawings(opened.map((o) => o.measure(measurer, NO_DECISIONS)));
  const structure = readSeveral(
    drawings.map((d) => d.drawing),
    measurer,
    options,
  );
  return { drawings, structure, measurer };
}

/** Reads the source of a screen's one drawing. */
export async function readSource(
  text: string,
  name: string,
): Promise<Reading & { readonly drawing: Drawing }> {
  const reading = await readSources([{ text, name }]);
  return { ...reading, drawing: (reading.drawings[0] as Aligned).drawing };
}
