import { cased } from '@tinfold/core/drawing';
import { contentOf, fontOf, styleOf } from './asComputed';

/** Words of one block that stand together: lines one below another, or a piece of one line beside something else. */
export interface Paragraph {
  /** From the top of its first line to the foot of its last, as wide as its block or its piece. */
  readonly box: DOMRect;
  readonly lineHeight: number;
  readonly lines: readonly (readonly (string | Element)[])[];
  readonly style: CSSStyleDeclaration;
  /** Where its lines stand in the box; at its start without it. */
  readonly align: string | undefined;
}

/** Words in one style in one line. */
interface Run {
  text: string;
  readonly from: Element;
  readonly left: number;
  right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Two pieces of a line that are further apart than this are not one, px: something stands between them. */
const APART = 1;

const isInline = (element: Element): boolean =>
  getComputedStyle(element).display === 'inline' &&
  !/^(?:img|svg|canvas|input|select|textarea|button)$/.test(element.localName);

/** The words of a block that are its own and of inline elements in it, in order. */
function* textsOf(element: Element): Generator<Text> {
  for (const node of element.childNodes) {
    if (node.nodeType === Node.TEXT_NODE) yield node as Text;
    else if (node.nodeType === Node.ELEMENT_NODE && isInline(node as Element))
      yield* textsOf(node as Element);
  }
}

/** The runs of a text node, one for each line that it stands in; letters that take no room are collapsed space. */
function runsOf(text: Text, doc: Document): Run[] {
  const from = text.parentElement;
  if (!from) return [];
  const style = getComputedStyle(from);
  if (style.visibility !== 'visible' || style.display === 'none') return [];
  const range = doc.createRange();
  const runs: Run[] = [];
  let at = 0;
  for (const ch of text.data) {
    range.setStart(text, at);
    range.setEnd(text, (at += ch.length));
    const box = range.getClientRects()[0];
    if (!box || (box.width === 0 && /\s/.test(ch))) continue;
    const last = runs.at(-1);
    const shown = /\s/.test(ch) ? ' ' : ch;
    if (last && Math.abs(last.top - box.top) < 1 && box.left > last.left - 1) {
      last.text += shown;
      last.right = Math.max(last.right, box.right);
    } else
      runs.push({ text: shown, from, left: box.left, right: box.right, top: box.top, bottom: box.bottom });
  }
  return runs.map((run) => ({ ...run, text: cased(run.text, style.textTransform) }));
}

/** Runs that stand in one line, by the middle of their letters. */
function inLines(runs: readonly Run[]): Run[][] {
  const lines: Run[][] = [];
  for (const run of runs) {
    const line = lines.at(-1);
    const last = line?.at(-1);
    const middle = (run.top + run.bottom) / 2;
    if (line && last && middle > last.top && middle < last.bottom && run.left >= last.right - APART)
      line.push(run);
    else lines.push([run]);
  }
  return lines;
}

/** A line cut where something stands between its runs. */
function piecesOf(line: readonly Run[]): Run[][] {
  const pieces: Run[][] = [];
  for (const run of line) {
    const last = pieces.at(-1)?.at(-1);
    if (last && run.left - last.right <= APART) pieces.at(-1)?.push(run);
    else pieces.push([run]);
  }
  return pieces;
}

const trimmed = (runs: readonly Run[]): Run[] =>
  runs
    .map((r, i) => ({
      ...r,
      text: (i === 0 ? r.text.trimStart() : r.text).replace(i === runs.length - 1 ? /\s+$/ : /$^/, ''),
    }))
    .filter((r) => r.text !== '');

/** Where lines stand in their block; undefined at its start. */
export const alignOf = (style: CSSStyleDeclaration): string | undefined =>
  /^(?:center|right|end)$/.exec(style.textAlign)?.[0];

/** The words of an element that is a block, as paragraphs; those of inline elements belong to their block. */
export function linesOf(element: Element, doc: Document): Paragraph[] {
  if (isInline(element)) return [];
  const style = getComputedStyle(element);
  const lines = inLines([...textsOf(element)].flatMap((t) => runsOf(t, doc)).filter((r) => r.text !== ''))
    .map(piecesOf)
    .map((pieces) => pieces.map(trimmed).filter((p) => p.length > 0))
    .filter((pieces) => pieces.length > 0);
  if (lines.length === 0) return [];
  const declared = parseFloat(style.lineHeight);
  const content = contentOf(element, style);
  const said = (piece: readonly Run[]) => piece.map((run) => wordsOf(run, element, doc));
  const middleOf = ([run]: readonly Run[]): number => (run ? (run.top + run.bottom) / 2 : 0);
  const heightOf = ([run]: readonly Run[]): number =>
    Number.isNaN(declared) ? (run ? run.bottom - run.top : 0) : declared;
  if (lines.every((l) => l.length === 1)) {
    const whole = lines.map(([piece = []]) => piece);
    const [first = [], second] = whole;
    const last = whole.at(-1) ?? first;
    const pitch =
      second && whole.length > 1 ? (middleOf(last) - middleOf(first)) / (whole.length - 1) : heightOf(first);
    const top = middleOf(first) - pitch / 2;
    const box = new DOMRect(content.x, top, content.width, pitch * whole.length);
    const align = alignOf(style);
    // An indent, or something before its words, moves them from where its block begins.
    const left = align === undefined ? Math.min(...whole.map(([r]) => r?.left ?? content.x)) : content.x;
    const placed = new DOMRect(left, box.y, box.width - (left - content.x), box.height);
    return [{ box: placed, lineHeight: pitch, lines: whole.map(said), style, align }];
  }
  return lines.flat().map((piece) => {
    const [left, right] = [piece[0]?.left ?? 0, piece.at(-1)?.right ?? 0];
    const height = heightOf(piece);
    const box = new DOMRect(left, middleOf(piece) - height / 2, right - left, height);
    return { box, lineHeight: height, lines: [said(piece)], style, align: undefined };
  });
}

/** The words of a run, in an element of their own where they look otherwise than the block's. */
function wordsOf({ text, from }: Run, block: Element, doc: Document): string | Element {
  const [own, around] = [styleOf(fontOf(getComputedStyle(from))), styleOf(fontOf(getComputedStyle(block)))];
  if (own === around) return text;
  const span = doc.createElement('span');
  span.setAttribute('style', own);
  span.textContent = text;
  return span;
}
