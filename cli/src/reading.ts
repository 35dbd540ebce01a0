import { NO_DECISIONS, openDrawing, type Drawing } from '@tinfold/core/drawing';
import { readStructure } from '@tinfold/core/infer';
import type { Structure } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from './fonts.js';

/** A drawing with the structure read from it. */
export interface Reading {
  readonly drawing: Drawing;
  readonly structure: Structure;
  readonly measurer: TextMeasurer;
}

/**
 * Reads a drawing's source (SVG, HTML or JSON) whole: import, measuring, structure. Throws a DrawingError for a file
 * that cannot be read.
 */
export async function readSource(source: string, name: string): Promise<Reading> {
  const opened = openDrawing(source, name);
  const measurer = await loadMeasurer(opened.faces());
  const drawing = opened.measure(measurer, NO_DECISIONS);
  return { drawing, structure: readStructure(drawing, measurer), measurer };
}
