import { expose } from 'comlink';
import {
  DrawingError,
  isPdf,
  openDrawing,
  pdfToSvg,
  type Drawing,
  type DrawingDecisions,
  type OpenedDrawing,
  type PdfLibrary,
  type ScreenFrame,
} from '@tinfold/core/drawing';
import {
  alignDrawings,
  questionsAbout,
  readSeveral,
  type Progress,
  type Question,
} from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import type { Structure } from '@tinfold/core/model';
import { ownFamilies, type OwnFont } from '@tinfold/core/text';
import { facesOfStructure, loadMeasurer, ownGlyphs, shippedGlyphs } from './fonts';

/** What a file is read by. */
export interface Source {
  readonly text: string;
  readonly name: string;
  /** The fonts that were added to the project. */
  readonly fonts: readonly OwnFont[];
}

/** A file with what was decided about its items. */
export interface Decided {
  readonly source: Source;
  readonly decisions: DrawingDecisions;
}

/** What became of a reading: expected failures are values, so that their sentence crosses to the page. */
export type Result<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string };

async function telling<T>(work: () => Promise<T>): Promise<Result<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    if (error instanceof DrawingError) return { ok: false, reason: error.message };
    throw error;
  }
}

/** A drawing with its words, those that are outlines of known glyphs among them. */
async function opening({ text, name, fonts }: Source): Promise<OpenedDrawing> {
  const opened = openDrawing(text, name);
  if (!opened.outlined) return opened;
  const own = fonts.length > 0 ? [await ownGlyphs(fonts)] : [];
  return opened.withGlyphs([...own, await shippedGlyphs()]);
}

/** Drawings of one screen, measured with one set of fonts. */
async function measured(files: readonly Decided[]) {
  const opened = await Promise.all(
    files.map(async ({ source, decisions }) => ({ drawing: await opening(source), decisions })),
  );
  const fonts = files[0]?.source.fonts ?? [];
  const faces = opened.flatMap(({ drawing, decisions }) => drawing.faces(ownFamilies(fonts), decisions));
  const measurer = await loadMeasurer(faces, fonts);
  return { drawings: opened.map(({ drawing, decisions }) => drawing.measure(measurer, decisions)), measurer };
}

/** The PDF library, which runs in this worker: it needs no worker of its own. */
async function pdfLibrary(): Promise<PdfLibrary> {
  const [library, handler] = await Promise.all([
    import('pdfjs-dist'),
    // @ts-expect-error The library's own worker comes without types.
    import('pdfjs-dist/build/pdf.worker.min.mjs') as Promise<unknown>,
  ]);
  Object.assign(globalThis, { pdfjsWorker: handler });
  return library;
}

const readingWorker = {
  /** The text of a drawing's file; a PDF comes as the SVG of its pages. */
  sourceText: (bytes: Uint8Array): Promise<Result<string>> =>
    telling(async () =>
      isPdf(bytes) ? pdfToSvg(bytes, await pdfLibrary()) : new TextDecoder().decode(bytes),
    ),

  /** The screens that stand side by side in a file. */
  frames: (source: Source): Promise<Result<readonly ScreenFrame[]>> =>
    telling(async () => (await opening(source)).frames),

  /** Reads a drawing to items alone. */
  open: (file: Decided): Promise<Result<Drawing>> =>
    telling(async () => (await measured([file])).drawings[0] as Drawing),

  /** Reads the drawings of one screen to items, called as in the screen's structure. */
  openAll: (files: readonly Decided[]): Promise<Result<readonly Drawing[]>> =>
    telling(async () => alignDrawings((await measured(files)).drawings).map((a) => a.drawing)),

  /** Reads the drawings of one screen to a structure; the drawings come as they are by themselves. */
  read: (
    files: readonly Decided[],
    tell: (progress: Progress) => void,
  ): Promise<Result<{ readonly drawings: readonly Drawing[]; readonly structure: Structure }>> =>
    telling(async () => {
      const { drawings, measurer } = await measured(files);
      const aligned = alignDrawings(drawings).map((a) => a.drawing);
      return { drawings, structure: readSeveral(aligned, measurer, { onProgress: tell }) };
    }),

  /** What the designer should be asked about a structure that was drawn at these widths. */
  ask: async (
    structure: Structure,
    drawnWidths: readonly number[],
    fonts: readonly OwnFont[],
  ): Promise<readonly Question[]> => {
    const measurer = await loadMeasurer(facesOfStructure(structure, fonts), fonts);
    return questionsAbout(structure, drawnWidths, new Engine(measurer));
  },
};

export type ReadingWorker = typeof readingWorker;
expose(readingWorker);
