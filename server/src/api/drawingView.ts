import type { DrawingDecisions } from '@tinfold/core/drawing';
import type { DrawingRow } from '../db/models.js';

/** A drawing as pages get it. */
interface DrawingView {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  /** The file as it came. */
  readonly source: string;
  readonly decisions: DrawingDecisions | null;
}

export const drawingView = ({ id, name, width, height, source, decisions }: DrawingRow): DrawingView => ({
  id,
  name,
  width,
  height,
  source,
  decisions,
});
