import { ruleOf, type Align, type Part } from '../model/index.js';

const outOfFlow = (part: Part): boolean => part.rules.pin !== undefined || part.rules.hidden === true;
const orderOf = (part: Part): number => part.rules.order ?? 0;

/** The children that take part in the flow, in the order in which they do (CSS Display 4 §3.1). */
export function inFlow(part: Part): readonly Part[] {
  const found = part.children.some(outOfFlow) ? part.children.filter((c) => !outOfFlow(c)) : part.children;
  return found.some((c) => c.rules.order) ? found.toSorted((a, b) => orderOf(a) - orderOf(b)) : found;
}

export const pinned = (part: Part): Part[] =>
  part.children.filter((c) => c.rules.pin !== undefined && !c.rules.hidden);

/** What the stroke takes of each side, px. */
export const strokeRoom = ({ rules, paint }: Part): number =>
  rules.strokeTakesRoom ? (paint?.stroke?.width ?? 0) : 0;

/** Padding and stroke left and right. */
export const horizontalEdges = (part: Part): number =>
  (part.rules.padding?.left ?? 0) + (part.rules.padding?.right ?? 0) + 2 * strokeRoom(part);
/** Padding and stroke above and below. */
export const verticalEdges = (part: Part): number =>
  (part.rules.padding?.top ?? 0) + (part.rules.padding?.bottom ?? 0) + 2 * strokeRoom(part);

/** Whether lines run from right to left. */
export const isRightToLeft = (part: Part): boolean => part.rules.direction === 'rtl';

/** Where the flow begins across the page, from the left, or from the right when `mirrored`. */
export const startEdge = (part: Part, mirrored: boolean): number =>
  (part.rules.padding?.[mirrored ? 'right' : 'left'] ?? 0) + strokeRoom(part);
/** Where the flow begins down the page, from the top, or from the bottom when `mirrored`. */
export const topEdge = (part: Part, mirrored = false): number =>
  (part.rules.padding?.[mirrored ? 'bottom' : 'top'] ?? 0) + strokeRoom(part);

/** `value` within min and max; as in CSS the min wins over the max and nothing is below the padding. */
export function clampSize(
  value: number,
  min: number | undefined,
  max: number | undefined,
  floor: number,
): number {
  return Math.max(floor, min ?? 0, Math.min(value, max ?? Infinity));
}

/**
 * Whether a part may be smaller than its content: what is scrolled, and lines that are cut, have no automatic minimum
 * (CSS Flexbox §4.5).
 */
export const isScroller = (part: Part): boolean =>
  part.rules.scroll === true || part.rules.maxLines !== undefined;

/** How a child stands across its parent's flow: its own word, else the parent's. */
export const crossAlign = (parent: Part, child: Part): Align =>
  child.rules.alignSelf ?? ruleOf(parent.rules, 'align');

/** How a child stands across a line: one that fills the line is stretched, one that keeps a ratio is not. */
export function lineAlign(parent: Part, child: Part): Align {
  const { kind } = ruleOf(child.rules, 'height');
  const align = crossAlign(parent, child);
  if (kind === 'fill') return 'stretch';
  return kind === 'ratio' && align === 'stretch' ? 'start' : align;
}

/** The spaces along a flow: what stands between all children, and what each adds before itself. */
export interface Spacing {
  readonly gap: number;
  readonly margins: readonly number[];
}

/** A gap in px; one in words counts nothing: it is what is left over. */
export const gapPx = (part: Part): number => (typeof part.rules.gap === 'number' ? part.rules.gap : 0);

/** A gap wider than this is room that is left and no distance that somebody set, px. */
const ROOM = 48;
/** The distance of most that stands one below another after such room beside it, and the most of all others, px. */
const UNDER = { room: 16, most: 32 };

/** How far what stood side by side, px apart, stands apart once it is one below another. */
export const gapUnder = (gap: number): number => (gap > ROOM ? UNDER.room : Math.min(gap, UNDER.most));

/**
 * The spaces of a flow as CSS has them: a gap is never negative, so overlaps and odd gaps are margins of the later
 * child.
 */
export function spacing(parent: Part, children: readonly Part[]): Spacing {
  const common = gapPx(parent);
  const gap = Math.max(0, common);
  return {
    gap,
    margins: children.map((child, i) => (i === 0 ? 0 : (child.rules.gapBefore ?? common) - gap)),
  };
}

/** All the space that a single line of children needs besides them. */
export const totalSpace = ({ gap, margins }: Spacing): number =>
  margins.reduce((s, m) => s + m, 0) + gap * Math.max(0, margins.length - 1);

/** The offset of the first of several in a row, and what is added between them. */
export interface Shift {
  readonly start: number;
  readonly between: number;
}

const NO_SHIFT: Shift = { start: 0, between: 0 };

/**
 * What a word makes of the room that is left (CSS Alignment §5.3): without room the shared spaces fall back to the
 * start, while `centre` and `end` overflow.
 */
export function distribute(word: string | undefined, count: number, free: number, reverse = false): Shift {
  if (free < 0 && (word === 'around' || word === 'evenly'))
    // They fall back to where lines start, not to where a reversed flow does.
    return { start: reverse ? free : 0, between: 0 };
  switch (word) {
    case 'centre':
      return { start: free / 2, between: 0 };
    case 'end':
      return { start: free, between: 0 };
    case 'between':
      return free > 0 && count > 1 ? { start: 0, between: free / (count - 1) } : NO_SHIFT;
    case 'around':
      return free > 0 ? { start: free / count / 2, between: free / count } : NO_SHIFT;
    case 'evenly':
      return free > 0 ? { start: free / (count + 1), between: free / (count + 1) } : NO_SHIFT;
    default:
      return NO_SHIFT;
  }
}

/** What shares out the room along a container's flow: its gap when that is a word, else `justify`. */
export const alongWord = (part: Part): string =>
  typeof part.rules.gap === 'string' ? part.rules.gap : ruleOf(part.rules, 'justify');

/** Where an aligned box begins in the room across the flow; negative when it is larger. */
export function offset(align: string | undefined, free: number): number {
  return align === 'centre' ? free / 2 : align === 'end' ? free : 0;
}

/** The number of columns of at least `min` px, and at the most `most`, that fit into `inner` px (CSS Grid §7.2.3.2). */
export function repeatCount(
  inner: number,
  { min, most }: { min: number; most?: number },
  gap: number,
): number {
  const least = most === undefined ? min : Math.max(min, (inner - gap * (most - 1)) / most);
  const track = Math.min(Math.max(least, 1), Math.max(inner, 1));
  return Math.max(1, Math.floor((inner + gap + 1e-6) / (track + gap)));
}
