import {
  NO_DECISIONS,
  openDrawing,
  type Drawing,
  type DrawingDecisions,
  type GlyphTable,
  type OpenedDrawing,
} from '@tinfold/core/drawing';
import {
  alignDrawings,
  namedAsScreen,
  readSeveral,
  type Aligned,
  type Progress,
  type ReadOptions,
} from '@tinfold/core/infer';
import type { Structure } from '@tinfold/core/model';
import { ownFamilies, type TextMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from './fonts.js';
import { shippedGlyphs } from './glyphs.js';
import { NO_FONTS, ownFileOf, ownGlyphs, type OwnFonts } from './ownFonts.js';

/** The text of a drawing's file, what the screen is to be called, and what the designer has decided about it. */
export interface Source {
  readonly text: string;
  readonly name: string;
  readonly decisions?: DrawingDecisions | null;
}

/** Drawings of one screen, in the order given. */
export interface Opened {
  readonly drawings: readonly Aligned[];
  readonly measurer: TextMeasurer;
}

/** Drawings of one screen with the structure read from them. */
export interface Reading extends Opened {
  readonly structure: Structure;
}

type Glyphs = () => readonly GlyphTable[] | Promise<readonly GlyphTable[]>;

const glyphsWith =
  (own: OwnFonts): Glyphs =>
  async () => [...(own.fonts.length > 0 ? [await ownGlyphs(own)] : []), shippedGlyphs()];

async function opening({ text, name }: Source, glyphs: Glyphs): Promise<OpenedDrawing> {
  const opened = openDrawing(text, name);
  return opened.outlined ? opened.withGlyphs(await glyphs()) : opened;
}

const decisionsOf = ({ decisions }: Source): DrawingDecisions => ({ ...NO_DECISIONS, ...decisions });

/**
 * Opens the sources (SVG, HTML or JSON) of drawings of one screen: import and measuring. Throws a DrawingError for a file that cannot
 * be read. Words that are outlines are read by the tables of `glyphs`.
 */
export async function openSources(
  sources: readonly Source[],
  own: OwnFonts = NO_FONTS,
  glyphs: Glyphs = glyphsWith(own),
): Promise<Opened> {
  const families = ownFamilies(own.fonts);
  const opened = await Promise.all(
    sources.map(async (s) => ({ drawing: await opening(s, glyphs), decisions: decisionsOf(s) })),
  );
  const faces = opened.flatMap(({ drawing, decisions }) => drawing.faces(families, decisions));
  const measurer = await loadMeasurer(faces, families, ownFileOf(own));
  const drawings = alignDrawings(
    opened.map(({ drawing, decisions }) => drawing.measure(measurer, decisions)),
  );
  return { drawings, measurer };
}

/** Reads the sources of drawings of one screen whole; see {@link openSources}. */
export async function readSources(
  sources: readonly Source[],
  options: ReadOptions = {},
  glyphs?: Glyphs,
  own?: OwnFonts,
): Promise<Reading> {
  const opened = await openSources(sources, own, glyphs);
  const structure = readSeveral(
    opened.drawings.map((d) => d.drawing),
    opened.measurer,
    options,
  );
  return { ...opened, structure };
}

/** Reads the source of a screen's one drawing. */
export async function readSource(
  text: string,
  name: string,
): Promise<Reading & { readonly drawing: Drawing }> {
  const reading = await readSources([{ text, name }]);
  return { ...reading, drawing: (reading.drawings[0] as Aligned).drawing };
}

/** One screen of a file, with what has to be decided about the file so that it is this one. */
export interface ReadScreen {
  readonly width: number;
  readonly height: number;
  readonly decisions: DrawingDecisions;
  readonly structure: Structure;
}

/** The share of a reading's time that goes by before all widths are tried. */
const BEFORE_JUDGING = 0.2;

const shareDone = ({ stage, done }: Progress): number =>
  stage === 'judging' ? BEFORE_JUDGING + (1 - BEFORE_JUDGING) * done : BEFORE_JUDGING * done;

/**
 * Reads all screens that stand in a file, each called as the file or the frame says. `tell` hears how far it has come, from 0 to 1.
 */
export async function readScreens(
  source: Source,
  own: OwnFonts,
  tell: (done: number) => void = () => undefined,
): Promise<ReadScreen[]> {
  const { frames } = await opening(source, glyphsWith(own));
  const wanted = frames.length > 1 ? frames : [undefined];
  const screens: ReadScreen[] = [];
  for (const [i, frame] of wanted.entries()) {
    const onProgress = (p: Progress): void => {
      tell((i + shareDone(p)) / wanted.length);
    };
    const decisions = frame ? { ...NO_DECISIONS, frame: frame.box } : NO_DECISIONS;
    const { drawings, structure } = await readSources(
      [{ ...source, decisions }],
      { onProgress },
      undefined,
      own,
    );
    const { width, height } = (drawings[0] as Aligned).drawing;
    screens.push({
      width,
      height,
      decisions,
      structure: namedAsScreen(structure, source.name, source.text, frame?.name),
    });
  }
  return screens;
}
