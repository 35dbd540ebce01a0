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

/** A file that was opened, with what was decided about it. */
interface Decided {
  readonly drawing: OpenedDrawing;
  readonly decisions: DrawingDecisions;
}

async function measured(opened: readonly Decided[], own: OwnFonts): Promise<Opened> {
  const families = ownFamilies(own.fonts);
  const faces = opened.flatMap(({ drawing, decisions }) => drawing.faces(families, decisions));
  const measurer = await loadMeasurer(faces, families, ownFileOf(own));
  const drawings = alignDrawings(
    opened.map(({ drawing, decisions }) => drawing.measure(measurer, decisions)),
  );
  return { drawings, measurer };
}

function reading(opened: Opened, options: ReadOptions): Reading {
  const drawings = opened.drawings.map((d) => d.drawing);
  return { ...opened, structure: readSeveral(drawings, opened.measurer, options) };
}

/**
 * Opens the sources (SVG, HTML or JSON) of drawings of one screen: import and measuring. Throws a DrawingError for a file that cannot
 * be read. Words that are outlines are read by the tables of `glyphs`.
 */
export async function openSources(
  sources: readonly Source[],
  own: OwnFonts = NO_FONTS,
  glyphs: Glyphs = glyphsWith(own),
): Promise<Opened> {
  const opened = sources.map(async (source) => ({
    drawing: await opening(source, glyphs),
    decisions: { ...NO_DECISIONS, ...source.decisions },
  }));
  return measured(await Promise.all(opened), own);
}

/** Reads the sources of drawings of one screen whole; see {@link openSources}. */
export async function readSources(
  sources: readonly Source[],
  options: ReadOptions = {},
  glyphs?: Glyphs,
): Promise<Reading> {
  return reading(await openSources(sources, NO_FONTS, glyphs), options);
}

/** Reads the source of a screen's one drawing. */
export async function readSource(
  text: string,
  name: string,
): Promise<Reading & { readonly drawing: Drawing }> {
  const whole = await readSources([{ text, name }]);
  return { ...whole, drawing: (whole.drawings[0] as Aligned).drawing };
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
  const drawing = await opening(source, glyphsWith(own));
  const { frames } = drawing;
  const wanted = frames.length > 1 ? frames : [undefined];
  const screens: ReadScreen[] = [];
  for (const [i, frame] of wanted.entries()) {
    const onProgress = (p: Progress): void => {
      tell((i + shareDone(p)) / wanted.length);
    };
    const decisions = frame ? { ...NO_DECISIONS, frame: frame.box } : NO_DECISIONS;
    const { drawings, structure } = reading(await measured([{ drawing, decisions }], own), { onProgress });
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
