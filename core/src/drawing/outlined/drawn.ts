import { SVGPathData } from 'svg-pathdata';
import type { TextRun, TextStyle } from '../../model/index.js';

/** The outlines of a drawn word in the size of its style, its baseline beginning at `at`, px. */
export function drawnOutline(
  { drawn, style }: TextRun,
  at: { readonly x: number; readonly y: number },
): string {
  if (!drawn || drawn.d === '') return '';
  const scale = style.size / drawn.size;
  return new SVGPathData(drawn.d).matrix(scale, 0, 0, scale, at.x, at.y).round(100).encode();
}

/** The outlines of a word: from where to where it goes along its line, px, and path data from there. */
export interface PlacedOutline {
  readonly from: number;
  readonly to: number;
  readonly d: string;
}

/** A word as it is drawn, with what it says. */
export interface PlacedWord extends PlacedOutline {
  readonly text: string;
}

/** Layout counts in 64ths of a px: widths in whole ones add up to just what was drawn. */
const inUnits = (px: number): number => Math.round(px * 64) / 64;

/** The words of a line as runs, with a space of the drawn width between them. */
export function drawnRuns(words: readonly PlacedWord[], style: TextStyle, rule?: 'evenodd'): TextRun[] {
  const { size } = style;
  return words.flatMap(({ text, from, to, d }, i): TextRun[] => {
    const [start, end] = [inUnits(from), inUnits(to)];
    const own: TextRun = { text, style, drawn: { width: end - start, size, d, ...(rule && { rule }) } };
    const next = words[i + 1];
    if (!next) return [own];
    return [own, { text: ' ', style, drawn: { width: Math.max(0, inUnits(next.from) - end), size, d: '' } }];
  });
}

/** The middle one of some numbers in order; 0 for none. */
export const middleOf = (list: readonly number[]): number =>
  list.toSorted((a, b) => a - b)[list.length >> 1] ?? 0;
