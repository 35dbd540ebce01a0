import { expose } from 'comlink';
import {
  DrawingError,
  facesOf,
  measureDrawing,
  readSvg,
  type Drawing,
  type DrawingDecisions,
} from '@tinfold/core/drawing';
import { readStructure, type Progress } from '@tinfold/core/infer';
import type { Structure } from '@tinfold/core/model';
import { loadMeasurer } from './fonts';

/** What became of a reading: expected failures are values, so that their sentence crosses to the page. */
export type ReadResult =
  | { readonly ok: true; readonly drawing: Drawing; readonly structure: Structure }
  | { readonly ok: false; readonly reason: string };

async function open(source: string, name: string, decisions: DrawingDecisions): Promise<Drawing> {
  const raw = readSvg(source, name);
  return measureDrawing(raw, await loadMeasurer(facesOf(raw)), decisions);
}

const readingWorker = {
  /** Reads a drawing to items alone. */
  open,

  /** Reads a drawing to items and structure. */
  async read(
    source: string,
    name: string,
    decisions: DrawingDecisions,
    tell: (progress: Progress) => void,
  ): Promise<ReadResult> {
    try {
      const raw = readSvg(source, name);
      const measurer = await loadMeasurer(facesOf(raw));
      const drawing = measureDrawing(raw, measurer, decisions);
      return { ok: true, drawing, structure: readStructure(drawing, measurer, { onProgress: tell }) };
    } catch (error) {
      if (error instanceof DrawingError) return { ok: false, reason: error.message };
      throw error;
    }
  },
};

export type ReadingWorker = typeof readingWorker;
expose(readingWorker);
