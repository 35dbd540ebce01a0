import { drawnWidth, type TextRun, type TextStyle } from '../model/index.js';
import type { Face, Family } from './catalogue.js';

/** The vertical metrics of a style in px, each rounded by itself as a browser does for `line-height: normal`. */
export interface FontMetrics {
  readonly ascent: number;
  readonly descent: number;
  readonly lineGap: number;
}

/** Measures text. It comes in from outside so that every place that lays out uses the same numbers. */
export interface TextMeasurer {
  /** The advance width of `text` in px, without line breaking. */
  width(text: string, style: TextStyle): number;
  metrics(style: TextStyle): FontMetrics;
  /** The characters of a text that no loaded file has: their width is estimated. */
  uncovered(text: string, style: TextStyle): string;
  /** The file that a character is taken from; undefined where none that is loaded has it. */
  servedBy(ch: string, style: TextStyle): Face | undefined;
  /** The outlines of `text` as SVG path data, its baseline beginning at `at`, px; empty for what has none. */
  outline(text: string, style: TextStyle, at: { readonly x: number; readonly y: number }): string;
  /** The families that the user added. */
  readonly own: readonly Family[];
}

/** The advance width of a run in px: that of its words in their font, or as they were drawn. */
export function runWidth({ text, style, drawn }: TextRun, m: TextMeasurer): number {
  return drawn ? drawnWidth(drawn, style.size) : m.width(text, style);
}

/** `line-height: normal` of a style in px (CSS 2.2 §10.8.1, as browsers compute it). */
export function normalLineHeight(metrics: FontMetrics): number {
  return metrics.ascent + metrics.descent + metrics.lineGap;
}

/**
 * From the top of a line box to its baseline, px: half of what the line height leaves over, then the ascent (CSS Inline
 * 3 §5.1). Browsers keep whole px of the half above a line.
 */
export function baselineInLine({ ascent, descent }: FontMetrics, lineHeight: number): number {
  return ascent + Math.floor((lineHeight - ascent - descent) / 2);
}
