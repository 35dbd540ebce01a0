import { facesOf, measureDrawing, readSvg, type Drawing } from '@tinfold/core/drawing';
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

/** Reads SVG source whole: import, measuring, structure. Throws a DrawingError for a file that cannot be read. */
export async function readSource(svg: string, name: string): Promise<Reading> {
  const raw = readSvg(svg, name);
  const measurer = await loadMeasurer(facesOf(raw));
  const drawing = measureDrawing(raw, measurer);
  return { drawing, structure: readStructure(drawing, measurer), measurer };
}
