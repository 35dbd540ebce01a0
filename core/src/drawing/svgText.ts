import { SVGPathData } from 'svg-pathdata';
import { applyToPoint, type Matrix } from 'transformation-matrix';
import type { TextRun, TextStyle } from '../model/index.js';
import { normalColour } from './colour.js';
import type { PlacedOutline } from './outlined/drawn.js';
import { scaleOf } from './outline.js';
import { cascade, length, type Declarations, type StyleSheet } from './styles.js';
import type { XmlElement } from './xml.js';

/** A stretch of text as the file places it: in frame px, its baseline at `y`. */
export interface Chunk {
  readonly x: number;
  readonly y: number;
  readonly anchor: 'start' | 'middle' | 'end';
  /** Set where the file gives no x: the chunk goes on this many px after the end of the one before. */
  readonly after?: number;
  /** The width that the file wants the chunk to have (`textLength`), px. */
  readonly wanted?: number;
  /** From where its first glyph is set to where the last one is, px, as far as that was measured in the drawing. */
  readonly span?: number;
  /** What that last glyph says, where it is more than one character. */
  readonly last?: string;
  /** Its words as they are drawn, where the drawing has them: from where to where they go from `x`, and their outlines. */
  readonly drawn?: readonly PlacedOutline[];
  readonly runs: readonly TextRun[];
}

/** The words of a text as a PDF draws them, which our reader of PDFs writes beside them. */
function drawnIn({ attributes }: XmlElement, scale: number): Pick<Chunk, 'drawn'> {
  const [places, outlines] = [attributes['data-places'], attributes['data-outlines']];
  if (places === undefined || outlines === undefined) return {};
  const numbers = places.split(' ').map(Number);
  const drawn = outlines.split('|').map((d, i) => ({
    from: (numbers[2 * i] ?? NaN) * scale,
    to: (numbers[2 * i + 1] ?? NaN) * scale,
    d: scale === 1 || d === '' ? d : new SVGPathData(d).scale(scale, scale).encode(),
  }));
  return drawn.every(({ from, to }) => from <= to) ? { drawn } : {};
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

const numberList = (text: string | undefined, fontSize: number): number[] =>
  (text ?? '')
    .trim()
    .split(/[\s,]+/)
    .flatMap((n) => length(n, 0, fontSize) ?? []);

/**
 * The chunks of a `text` element in file order. A new chunk starts wherever a position of its own is given
 * (SVG 2 §11.5); relative shifts down start one too, since each is a line of its own.
 */
export function textChunks(
  text: XmlElement,
  inherited: Declarations,
  sheet: StyleSheet,
  matrix: Matrix,
): Chunk[] {
  const chunks: (Omit<Chunk, 'runs'> & { readonly runs: { text: string; style: TextStyle }[] })[] = [];
  const scale = scaleOf(matrix);
  let [x, y] = [0, 0];
  let fresh = true;
  /** Whether an x was given for the next chunk, perhaps by an element around it. */
  let placed = false;
  const visit = (el: XmlElement, parent: Declarations): void => {
    const style = el === text ? inherited : cascade(parent, sheet.own(el));
    if (style['display'] === 'none' || style['visibility'] === 'hidden') return;
    const size = length(style['font-size'], 16) ?? 16;
    const list = (name: string) => numberList(el.attributes[name], size);
    const xs = list('x');
    const [[ax], [ay], [dx = 0], [dy = 0]] = [xs, list('y'), list('dx'), list('dy')];
    if (ax !== undefined || ay !== undefined || dy !== 0) fresh = true;
    const wanted = numberList(el.attributes['textLength'], size)[0];
    const span = numberList(el.attributes['data-span'], size)[0];
    if (ax !== undefined) placed = true;
    x = (ax ?? x) + dx;
    y = (ay ?? y) + dy;
    const keep = (el.attributes['xml:space'] ?? el.attributes['space'] ?? style['xml:space']) === 'preserve';
    for (const child of el.children) {
      if (typeof child !== 'string') {
        if (child.name === 'tspan' || child.name === 'a' || child.name === 'textPath') visit(child, style);
        continue;
      }
      const own = keep
        ? child.replace(/[\n\r\t]/g, ' ')
        : child.replace(/[\n\r]+\s*/g, ' ').replace(/\s+/g, ' ');
      // A space after another is one with it, whatever element each is in (CSS Text 3 §4.1.1).
      const follows = !keep && !fresh && chunks.at(-1)?.runs.at(-1)?.text.endsWith(' ') === true;
      const words = follows ? own.replace(/^ /, '') : own;
      if (words.trim() === '' && (fresh || words === '')) continue;
      const run = (value: string) => ({ text: value, style: textStyle(style, scale) });
      const anchor = style['text-anchor'];
      const start = (at: number, value: string) =>
        chunks.push({
          ...applyToPoint(matrix, { x: at, y }),
          anchor: anchor === 'middle' || anchor === 'end' ? anchor : 'start',
          ...(!placed && chunks.length > 0 && { after: dx * scale }),
          ...(wanted !== undefined && { wanted: wanted * scale }),
          ...(span !== undefined && { span: span * scale }),
          ...(el.attributes['data-last'] !== undefined && { last: el.attributes['data-last'] }),
          ...drawnIn(el, scale),
          runs: [run(value)],
        });
      if (xs.length > 1 && fresh) {
        // One position a letter: each starts a chunk, the rest follows the last.
        const letters = Array.from(words.trim());
        letters.slice(0, xs.length).forEach((letter, i) => start(xs[i] ?? x, letter));
        const rest = letters.slice(xs.length).join('');
        if (rest !== '') chunks.at(-1)?.runs.push(run(rest));
      } else if (fresh) start(x, words);
      else chunks.at(-1)?.runs.push(run(words));
      [fresh, placed] = [false, false];
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
