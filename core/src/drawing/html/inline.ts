import type { TextContent, TextRun, TextStyle } from '../../model/index.js';
import { baselineInLine, breakLines, normalLineHeight, type TextMeasurer } from '../../text/index.js';
import type { Computed, StyledNode } from './computed.js';

/** A stretch of words in one style, with the line height that it asks for. */
export interface Words {
  readonly kind: 'words';
  readonly text: string;
  readonly style: Computed;
}

/** Something in a line that is laid out by itself: a picture, a control, a box. */
export interface Atom {
  readonly kind: 'atom';
  readonly node: StyledNode;
}

export type Inline = Words | Atom;

/** Words as `text-transform` shows them (CSS Text 3 §2.1). */
export const cased = (text: string, how: string | undefined): string => {
  if (how === 'uppercase') return text.toUpperCase();
  if (how === 'lowercase') return text.toLowerCase();
  return how === 'capitalize'
    ? text.replace(/(^|\s)(\p{L})/gu, (_, gap: string, l: string) => gap + l.toUpperCase())
    : text;
};

/** Whether an inline element shows a box of its own, so that it stands in its line as one piece. */
const hasBox = ({ style }: StyledNode): boolean => {
  const { all, padding, margin, border } = style;
  const sideways = [padding[1], padding[3], margin[1], margin[3]].some((n) => n !== 0 && n !== 'auto');
  return (
    sideways ||
    border.some((n) => n > 0) ||
    all['background'] !== undefined ||
    all['background-color'] !== undefined
  );
};

/** The words and atoms of inline children, white space collapsed over them (CSS Text 3 §4.1). */
export function inlines(children: readonly (StyledNode | string)[], style: Computed): Inline[] {
  const found: Inline[] = [];
  const visit = (nodes: readonly (StyledNode | string)[], own: Computed): void => {
    for (const node of nodes) {
      if (typeof node === 'string')
        found.push({ kind: 'words', text: cased(node, own.all['text-transform']), style: own });
      else if (node.style.display === 'none') continue;
      else if (node.el.name === 'br') found.push({ kind: 'words', text: '\u2028', style: own });
      else if (node.style.display !== 'inline' || hasBox(node)) found.push({ kind: 'atom', node });
      else visit(node.children, node.style);
    }
  };
  visit(children, style);
  return collapsed(found);
}

function collapsed(items: readonly Inline[]): Inline[] {
  const result: Inline[] = [];
  let spaceBefore = true;
  for (const item of items) {
    if (item.kind === 'atom') {
      result.push(item);
      spaceBefore = false;
      continue;
    }
    let { text } = item;
    if (item.style.preserve === 'none') text = text.replace(/[ \t\n\r\f]+/g, ' ');
    else if (item.style.preserve === 'lines')
      text = text.replace(/[ \t\f]+/g, ' ').replace(/ ?\r?\n ?/g, '\u2028');
    else text = text.replace(/\r?\n/g, '\u2028').replace(/\t/g, '        ');
    if (item.style.preserve !== 'all') {
      text = text.replace(/ ?\u2028 ?/g, '\u2028');
      if (spaceBefore) text = text.replace(/^ /, '');
    }
    if (text === '') continue;
    spaceBefore = /[ \u2028]$/.test(text);
    result.push({ ...item, text });
  }
  const last = result.at(-1);
  if (last?.kind === 'words' && last.style.preserve !== 'all') {
    const text = last.text.replace(/ $/, '');
    if (text === '') result.pop();
    else result[result.length - 1] = { ...last, text };
  }
  return result;
}

export const lineHeightOf = (style: Computed, m: TextMeasurer): number =>
  style.lineHeight === 'normal' ? normalLineHeight(m.metrics(style.type)) : style.lineHeight;

/** From the top of a style's line box to its baseline, and from there to its foot. */
function strut(style: Computed, m: TextMeasurer): { ascent: number; descent: number } {
  const height = lineHeightOf(style, m);
  const ascent = baselineInLine(m.metrics(style.type), height);
  return { ascent, descent: height - ascent };
}

/** A line that holds only words. */
export interface WordLine {
  readonly runs: readonly TextRun[];
  readonly width: number;
  readonly ascent: number;
  readonly descent: number;
}

/** Breaks words without atoms into lines at most `width` wide. */
export function wordLines(
  words: readonly Words[],
  own: Computed,
  width: number,
  m: TextMeasurer,
): WordLine[] {
  const styles = new Map<TextStyle, Computed>(words.map((w) => [w.style.type, w.style]));
  const content: TextContent = {
    kind: 'text',
    runs: words.map((w) => ({ text: w.text.replaceAll('\u2028', '\n'), style: w.style.type })),
    lineHeight: lineHeightOf(own, m),
    align: own.align,
  };
  const base = strut(own, m);
  return breakLines(content, own.oneLine ? Infinity : width, m).map((line) => {
    const struts = line.runs.map((r) => strut(styles.get(r.style) ?? own, m));
    return {
      runs: line.runs,
      width: line.width,
      ascent: Math.max(base.ascent, ...struts.map((s) => s.ascent)),
      descent: Math.max(base.descent, ...struts.map((s) => s.descent)),
    };
  });
}
