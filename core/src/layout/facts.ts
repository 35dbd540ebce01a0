import { ruleOf, type Align, type Flow, type Part, type Size, type TextContent } from '../model/index.js';
import type { Memo } from './memo.js';
import type { Area } from './placement.js';
import {
  alongWord,
  crossAlign,
  horizontalEdges,
  inFlow,
  isRightToLeft,
  lineAlign,
  pinned,
  spacing,
  startEdge,
  topEdge,
  totalSpace,
  verticalEdges,
} from './sizing.js';

/**
 * What of a part's layout depends on no width: looked up once, since a sweep lays the same parts out at each. What every
 * layout looks at stands first, so that it is fetched together.
 */
export interface Facts {
  readonly part: Part;
  readonly width: Size;
  readonly height: Size;
  /** Whether limits of its own hold on its width, and on its height. */
  readonly limitsWidth: boolean;
  readonly limitsHeight: boolean;
  /** Whether it looks the same at a greater height than its content's, but for its own lower edge. */
  readonly growsDown: boolean;
  /** What an engine keeps of the part's layouts: the one that laid it out last. */
  memo: Memo | undefined;
  /** Padding and stroke on both sides. */
  readonly horizontal: number;
  readonly vertical: number;
  /** The words of a text, and how many of their lines are shown at the most. */
  readonly text: TextContent | undefined;
  readonly maxLines: number | undefined;
  /** Facts of the children in its flow, so that nothing has to be looked up for them. */
  readonly kids: readonly Facts[];
  readonly flow: Flow;
  /** Whether it is something else in CSS: see `rewrite.ts`. */
  readonly isRewritten: boolean;
  /** Whether it is a column whose children stand one below another from its top, as high as they are. */
  readonly isPlainColumn: boolean;
  /** What shares out the room along the flow. */
  readonly word: string;
  readonly gap: number;
  readonly margins: readonly number[];
  /** Gaps and margins of all children on one line. */
  readonly space: number;
  /** How each child stands across a column, and across a line. */
  readonly across: readonly Align[];
  readonly onLine: readonly Align[];
  /** From its left and its upper edge to what it holds. */
  readonly left: number;
  readonly top: number;
  readonly children: readonly Part[];
  readonly pins: readonly Part[];
  /** Where the children stand in a grid that names so many tracks: what was asked for last. */
  areas: { readonly explicit: number; readonly all: readonly Area[] } | undefined;
  /** Whether a child's width is a share, and the largest min of px among them: what lines ask of them else depends on no width. */
  readonly sharesWidth: boolean;
  readonly largestMin: number;
  /** Whether any child may be higher or lower than its content asks, along a column. */
  readonly flexes: boolean;
  /** Whether a height in it is a share, which counts only where the height that it shares is said. */
  readonly shares: boolean;
}

const known = new WeakMap<Part, Facts>();

export function factsOf(part: Part): Facts {
  let facts = known.get(part);
  if (!facts) known.set(part, (facts = find(part)));
  return facts;
}

function find(part: Part): Facts {
  const children = inFlow(part);
  const pins = pinned(part);
  const space = spacing(part, children);
  const word = alongWord(part);
  const { rules, content } = part;
  const shares = part.children.some((c) => c.rules.height?.kind === 'share' || factsOf(c).shares);
  const flow = ruleOf(rules, 'flow');
  const flexes = children.some((c) => c.rules.height?.kind === 'fill' || mayGiveWay(c));
  return {
    part,
    width: ruleOf(rules, 'width'),
    height: ruleOf(rules, 'height'),
    limitsWidth: rules.minWidth !== undefined || rules.maxWidth !== undefined,
    limitsHeight: rules.minHeight !== undefined || rules.maxHeight !== undefined,
    growsDown:
      part.kind !== 'container' ||
      (flow === 'column' &&
        word === 'start' &&
        !rules.reverse &&
        !shares &&
        pins.length === 0 &&
        children.every((c) => c.rules.height?.kind !== 'fill' && !isLimitedGrid(c))),
    memo: undefined,
    areas: undefined,
    horizontal: horizontalEdges(part),
    vertical: verticalEdges(part),
    text: content?.kind === 'text' ? content : undefined,
    maxLines: rules.maxLines,
    kids: children.map(factsOf),
    flow,
    isRewritten: rules.gap === 'centres' || (flow === 'wrap' && children.some((c) => c.rules.newLine)),
    isPlainColumn: !flexes && word === 'start' && !rules.reverse && !isRightToLeft(part),
    word,
    gap: space.gap,
    margins: space.margins,
    space: totalSpace(space),
    across: children.map((c) => crossAlign(part, c)),
    onLine: children.map((c) => lineAlign(part, c)),
    left: startEdge(part, false),
    top: topEdge(part),
    children,
    pins,
    sharesWidth: children.some((c) => c.rules.width?.kind === 'share'),
    largestMin: children.reduce(
      (most, { rules: { minWidth } }) => (typeof minWidth === 'number' ? Math.max(most, minWidth) : most),
      0,
    ),
    flexes,
    shares,
  };
}

/** Whether a child of a column may be lower than it asks: a ratio keeps its height. */
export const mayGiveWay = ({ rules }: Part): boolean =>
  rules.givesWay === 'first' && rules.height?.kind !== 'ratio';

/** Rows of a grid share out a height that is said, not one that a limit made of the content's. */
export const isLimitedGrid = ({ rules }: Part): boolean =>
  rules.flow === 'grid' && (rules.maxHeight !== undefined || rules.minHeight !== undefined);

/** Whether it matters to what is in a part that its height is said, though it is just that of its content. */
export const heedsHeight = (facts: Facts): boolean => facts.shares || isLimitedGrid(facts.part);
