import { ruleOf, type Align, type Part, type Size } from '../model/index.js';
import type { Memo } from './memo.js';
import {
  alongWord,
  crossAlign,
  horizontalEdges,
  inFlow,
  lineAlign,
  pinned,
  spacing,
  totalSpace,
  verticalEdges,
} from './sizing.js';

/** What of a part's layout depends on no width: looked up once, since a sweep lays the same parts out at each. */
export interface Facts {
  readonly part: Part;
  readonly width: Size;
  readonly height: Size;
  /** Whether limits of its own hold on its width, and on its height. */
  readonly limitsWidth: boolean;
  readonly limitsHeight: boolean;
  /** What an engine keeps of the part's layouts: the one that laid it out last. */
  memo: Memo | undefined;
  readonly children: readonly Part[];
  /** The same for each of the children, so that nothing has to be looked up for them. */
  readonly kids: readonly Facts[];
  readonly pins: readonly Part[];
  readonly gap: number;
  readonly margins: readonly number[];
  /** Gaps and margins of all children on one line. */
  readonly space: number;
  readonly horizontal: number;
  readonly vertical: number;
  /** What shares out the room along the flow. */
  readonly word: string;
  /** How each child stands across a column, and across a line. */
  readonly across: readonly Align[];
  readonly onLine: readonly Align[];
  /** Whether a child's width is a share, and the largest min of px among them: what lines ask of them else depends on no width. */
  readonly sharesWidth: boolean;
  readonly largestMin: number;
  /** Whether any child may be higher or lower than its content asks, along a column. */
  readonly flexes: boolean;
  /** Whether a height in it is a share, which counts only where the height that it shares is said. */
  readonly shares: boolean;
  /** Whether it looks the same at a greater height than its content's, but for its own lower edge. */
  readonly growsDown: boolean;
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
  const { rules } = part;
  const shares = part.children.some((c) => c.rules.height?.kind === 'share' || factsOf(c).shares);
  return {
    part,
    width: ruleOf(rules, 'width'),
    height: ruleOf(rules, 'height'),
    limitsWidth: rules.minWidth !== undefined || rules.maxWidth !== undefined,
    limitsHeight: rules.minHeight !== undefined || rules.maxHeight !== undefined,
    memo: undefined,
    children,
    kids: children.map(factsOf),
    pins,
    gap: space.gap,
    margins: space.margins,
    space: totalSpace(space),
    horizontal: horizontalEdges(part),
    vertical: verticalEdges(part),
    word,
    across: children.map((c) => crossAlign(part, c)),
    onLine: children.map((c) => lineAlign(part, c)),
    sharesWidth: children.some((c) => c.rules.width?.kind === 'share'),
    largestMin: children.reduce(
      (most, { rules: { minWidth } }) => (typeof minWidth === 'number' ? Math.max(most, minWidth) : most),
      0,
    ),
    flexes: children.some((c) => c.rules.height?.kind === 'fill' || mayGiveWay(c)),
    shares,
    growsDown:
      part.kind !== 'container' ||
      (ruleOf(rules, 'flow') === 'column' &&
        word === 'start' &&
        !rules.reverse &&
        !shares &&
        pins.length === 0 &&
        children.every((c) => c.rules.height?.kind !== 'fill' && !isLimitedGrid(c))),
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
