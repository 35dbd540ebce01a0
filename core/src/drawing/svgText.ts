import { applyToPoint, type Matrix } from 'transformation-matrix';
import type { TextStyle } from '../model/index.js';
import { normalColour } from './colour.js';
import { scaleOf } from './outline.js';
import { cascade, length, type Declarations, type StyleSheet } from './styles.js';
import type { XmlElement } from './xml.js';

/** A stretch of text as the file places it: in frame px, its baseline at `y`. */
export interface Chunk {
  readonly x: number;
  readonly y: number;
  readonly anchor: 'start' | 'middle' | 'end';
  readonly runs: { text: string; style: TextStyle }[];
}

const WEIGHTS: Readonly<Record<string, number>> = { normal: 400, bold: 700, lighter: 300, bolder: 700 };

/** The type style that SVG properties describe, scaled into frame px. */
function textStyle(p: Declarations, scale: number): TextStyle {
  const size = length(p['font-size'], 16) ?? 16;
  const weight = WEIGHTS[p['font-weight'] ?? 'normal'] ?? (Number(p['font-weight']) || 400);
  const fill = p['fill'] === 'currentColor' ? p['color'] : p['fill'];
  const opacity = (length(p['fill-opacity'], 1) ?? 1) * (length(p['opacity'], 1) ?? 1);
  return {
    family: p['font-family'] ?? 'sans-serif',
    size: size * scale,
    weight: Math.min(1000, Math.max(1, weight)),
    italic: /italic|oblique/.test(p['font-style'] ?? ''),
    letterSpacing: (length(p['letter-spacing'], 0, size) ?? 0) * scale,
    colour: normalColour(fill ?? '#000000', opacity) ?? 'transparent',
  };
}

const firstNumber = (text: string | undefined, fontSize: number): number | undefined =>
  length(text?.trim().split(/[\s,]+/)[0], 0, fontSize);

/**
 * The chunks of a `text` element in file order. A new chunk starts wherever an absolute position is given
 * (SVG 2 §11.5); relative shifts down start one too, since each is a line of its own.
 */
export function textChunks(
  text: XmlElement,
  inherited: Declarations,
  sheet: StyleSheet,
  matrix: Matrix,
): Chunk[] {
  const chunks: Chunk[] = [];
  const scale = scaleOf(matrix);
  let [x, y] = [0, 0];
  let fresh = true;
  const visit = (el: XmlElement, parent: Declarations): void => {
    const style = el === text ? inherited : cascade(parent, sheet.own(el));
    if (style['display'] === 'none' || style['visibility'] === 'hidden') return;
    const size = length(style['font-size'], 16) ?? 16;
    const [ax, ay] = [firstNumber(el.attributes['x'], size), firstNumber(el.attributes['y'], size)];
    const [dx, dy] = [
      firstNumber(el.attributes['dx'], size) ?? 0,
      firstNumber(el.attributes['dy'], size) ?? 0,
    ];
    if (ax !== undefined || ay !== undefined || dy !== 0) fresh = true;
    x = (ax ?? x) + dx;
    y = (ay ?? y) + dy;
    const keep = (el.attributes['xml:space'] ?? el.attributes['space'] ?? style['xml:space']) === 'preserve';
    for (const child of el.children) {
      if (typeof child !== 'string') {
        if (child.name === 'tspan' || child.name === 'a' || child.name === 'textPath') visit(child, style);
        continue;
      }
      const words = keep
        ? child.replace(/[\n\r\t]/g, ' ')
        : child.replace(/[\n\r]+\s*/g, ' ').replace(/\s+/g, ' ');
      if (words.trim() === '' && (fresh || words === '')) continue;
      if (fresh) {
        const anchor = style['text-anchor'];
        chunks.push({
          ...applyToPoint(matrix, { x, y }),
          anchor: anchor === 'middle' || anchor === 'end' ? anchor : 'start',
          runs: [],
        });
        fresh = false;
      }
      chunks.at(-1)?.runs.push({ text: words, style: textStyle(style, scale) });
    }
  };
  visit(text, inherited);
  for (const chunk of chunks) {
    const [first, last] = [chunk.runs[0], chunk.runs.at(-1)];
    if (first) first.text = first.text.trimStart();
    if (last) last.text = last.text.trimEnd();
  }
  return chunks.filter((c) => c.runs.some((r) => r.text !== ''));
}
