import { expose } from 'comlink';
import {
  DrawingError,
  openDrawing,
  type Drawing,
  type DrawingDecisions,
  type ScreenFrame,
} from '@tinfold/core/drawing';
import { readStructure, type Progress } from '@tinfold/core/infer';
import type { Structure } from '@tinfold/core/model';
import { ownFamilies, type OwnFont } from '@tinfold/core/text';
import { loadMeasurer } from './fonts';

/** What a file is read by. */
export interface Source {
  readonly text: string;
  readonly name: string;
  /** The fonts that were added to the project. */
  readonly fonts: readonly OwnFont[];
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

async function measured({ text, name, fonts }: Source, decisions: DrawingDecisions) {
  const opened = openDrawing(text, name);
  const measurer = await loadMeasurer(opened.faces(ownFamilies(fonts)), fonts);
  return { drawing: opened.measure(measurer, decisions), measurer };
}

const readingWorker = {
  /** The screens that stand side by side in a file. */
  frames: (source: Source): Promise<Result<readonly ScreenFrame[]>> =>
    telling(() => Promise.resolve(openDrawing(source.text, source.name).frames)),

  /** Reads a drawing to items alone. */
  open: (source: Source, decisions: DrawingDecisions): Promise<Result<Drawing>> =>
    telling(async () => (await measured(source, decisions)).drawing),

  /** Reads a drawing to items and structure. */
  read: (
    source: Source,
    decisions: DrawingDecisions,
    tell: (progress: Progress) => void,
  ): Promise<Result<{ readonly drawing: Drawing; readonly structure: Structure }>> =>
    telling(async () => {
      const { drawing, measurer } = await measured(source, decisions);
      return { drawing, structure: readStructure(drawing, measurer, { onProgress: tell }) };
    }),
};

export type ReadingWorker = typeof readingWorker;
expose(readingWorker);
