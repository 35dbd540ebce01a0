import { bottom, right, type Rect, type TextContent } from '../model/index.js';
import { readableText } from '../model/index.js';
import { breakLines, type TextMeasurer } from '../text/index.js';
import { gapsOf } from './stack.js';
import { hasParagraph, isText, lineCount, near, type Node, type Tolerance } from './node.js';

/** A painted box larger than this is a card, not a button or a tag, px. */
const BUTTON_HEIGHT = 96;
const BUTTON_WIDTH = 360;
/** Padding beyond this is not a button's or a tag's. */
const BUTTON_PADDING = 40;

/** A painted box up to this side that holds only icons is one itself, px. */
const CHIP = 96;
/** How far an icon's strokes may end inside its box, px. */
export const ICON_INK = 5;
/** Things in a row further apart than this are held apart by the row, not by a gap. */
const CLOSE = 40;

/** And things this far apart always are. */
const FAR = 72;

/** The distances of what a painted column holds from its upper and lower edge; undefined for other nodes. */
function spacesOf(node: Node): { top: number; foot: number } | undefined {
  if (!node.item || node.flow !== 'column' || node.children.length === 0) return undefined;
  return {
    top: Math.min(...node.children.map((c) => c.box.y)) - node.box.y,
    foot: bottom(node.box) - Math.max(...node.children.map((c) => bottom(c.box))),
  };
}

/** Room at the foot of a column that is this much more than it needs comes from what stands beside it, px. */
const LEFT_OVER = 3;

/**
 * The padding that stretched columns have at their foot, by node: where one is as high as it must be, that of all; where
 * all are lower than what they stand beside, as much as at their top.
 */
export function feetOf(nodes: readonly Node[], allStretched: boolean): ReadonlyMap<Node, number> {
  const spaces = nodes.flatMap((node) => {
    const s = spacesOf(node);
    return s ? [{ node, ...s }] : [];
  });
  const least = Math.min(...spaces.map((s) => s.foot));
  return new Map(
    spaces.flatMap(({ node, top, foot }) => {
      const needs = allStretched ? top : least;
      return foot > needs + LEFT_OVER ? [[node, Math.max(0, needs)] as const] : [];
    }),
  );
}

/** Whether a node is a picture larger than an icon or a face: it gives way with its surroundings. */
const isLargePicture = ({ item, box }: Node): boolean =>
  item?.kind === 'picture' && Math.min(box.width, box.height) > CHIP;

/** Whether a node is as wide as what is in it: one-line texts, icons, buttons, tags, and stacks of these. */
export function fitsContent(node: Node, tolerance: Tolerance): boolean {
  if (node.children.length === 0) return isText(node) ? lineCount(node) === 1 : !isLargePicture(node);
  if (node.flow === 'grid' || node.flow === 'wrap' || node.flow === 'free') return false;
  if (hasParagraph(node)) return false;
  if (!node.children.every((c) => fitsContent(c, tolerance))) return false;
  if (node.flow === 'row' && node.children.length > 1) {
    const gaps = gapsOf(node.children, 'row');
    const widest = Math.max(...gaps);
    if (widest > FAR || (widest > CLOSE && (gaps.length === 1 || widest > Math.min(...gaps) * 2.5)))
      return false;
  }
  if (
    node.flow === 'column' &&
    !node.item &&
    !node.isPadded &&
    Math.max(...node.children.map((c) => c.box.width)) < node.box.width - tolerance.same * 2
  )
    return false;
  if (!node.item) return true;
  if (node.item.kind === 'picture') return false;
  if (node.children.every(isRigid)) return Math.max(node.box.width, node.box.height) <= CHIP;
  const left = Math.min(...node.children.map((c) => c.box.x)) - node.box.x;
  const rest = right(node.box) - Math.max(...node.children.map((c) => right(c.box)));
  if (node.box.height > BUTTON_HEIGHT || node.box.width > BUTTON_WIDTH) return false;
  // An icon's strokes end inside its box, so that the side it stands on looks wider padded.
  const ink = node.children.some((c) => c.item?.kind === 'art') ? ICON_INK : 0;
  return (
    near(left, rest, tolerance.same * 1.5 + ink) && left <= Math.max(BUTTON_PADDING, node.box.height * 0.8)
  );
}

/** Something without content in flow keeps its drawn size: an icon, an avatar with its badge, a swatch. */
export const isRigid = (node: Node): boolean => node.children.length === 0 && !isText(node);

/** Whether the right edge is where words happen to end, so that the real box may reach further. */
export function isRagged(node: Node): boolean {
  if (isText(node)) return true;
  if (node.item || node.children.length === 0) return false;
  if (node.flow === 'row') return isRagged(node.children.at(-1) as Node);
  const edge = Math.max(...node.children.map((c) => right(c.box)));
  return node.children.filter((c) => right(c.box) > edge - 1).every(isRagged);
}

/** A paragraph's box is at least this much wider than its widest line, so that rounding does not break it, px. */
export const WORD_ROOM = 0.3;

/**
 * The widths at which a paragraph breaks just as it was drawn: from its widest line up to, not including, where the
 * first word of some line would move up.
 */
export function breakingRange(
  content: TextContent,
  widest: number,
  drawnLines: number,
  m: TextMeasurer,
): [number, number] {
  const breaks = (width: number) =>
    breakLines(content, width, m)
      .map((l) => l.runs.map((r) => r.text).join(''))
      .join('\n');
  const drawn = breaks(widest + WORD_ROOM);
  if (breakLines(content, widest + WORD_ROOM, m).length !== drawnLines)
    return [widest + WORD_ROOM, widest + 1];
  let [low, high] = [widest + WORD_ROOM, Math.max(widest * 2, widest + 40)];
  if (breaks(high) === drawn) return [low, Infinity];
  while (high - low > 0.25) {
    const middle = (low + high) / 2;
    if (breaks(middle) === drawn) low = middle;
    else high = middle;
  }
  return [widest + WORD_ROOM, low];
}

/** The widths of a node at which all paragraphs in it break as drawn; from its own width up where it has none. */
export function measureRange(node: Node, m: TextMeasurer): [number, number] {
  let [low, high] = [node.box.width, Infinity];
  const visit = (n: Node): void => {
    const { item } = n;
    if (item?.kind === 'text' && item.lines.length > 1) {
      const indent = n.box.x - node.box.x;
      const [l, h] = breakingRange(item.content, n.box.width, item.lines.length, m);
      low = Math.max(low, l + indent);
      high = Math.min(high, h + indent);
    }
    n.children.forEach(visit);
  };
  visit(node);
  return [low, high];
}

const ROUND = [100, 80, 40, 20, 10, 8, 5, 4, 2, 1, 0.5];
const ROUND_GAPS = [16, 8, 4, 2, 1, 0.5];

const roundestOf =
  (steps: readonly number[]) =>
  (low: number, high: number): number => {
    for (const by of steps) {
      const value = Math.ceil(low / by) * by;
      if (value < high) return value;
    }
    return low;
  };

/** The roundest number within a range: what a designer would have typed. */
export const roundest = roundestOf(ROUND);
/** The roundest gap within a range: gaps double where sizes go by tens. */
export const roundestGap = roundestOf(ROUND_GAPS);

/** Words by which a part may be called. */
export const words = (node: Node): string | undefined =>
  node.item?.kind === 'text' ? readableText(node.item.content).replace(/\s+/g, ' ').trim() : undefined;

/** Distances of a box from the left and right edge of another. */
export const sides = (inner: Rect, outer: Rect): [number, number] => [
  inner.x - outer.x,
  right(outer) - right(inner),
];
