import { SVGPathData } from 'svg-pathdata';
import type { TextRun } from '../../model/index.js';

/** The outlines of a drawn word in the size of its style, its baseline beginning at `at`, px. */
export function drawnOutline(
  { drawn, style }: TextRun,
  at: { readonly x: number; readonly y: number },
): string {
  if (!drawn || drawn.d === '') return '';
  const scale = style.size / drawn.size;
  return new SVGPathData(drawn.d).matrix(scale, 0, 0, scale, at.x, at.y).round(100).encode();
}
