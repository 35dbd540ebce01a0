import { ruleOf, type Part } from '../model/index.js';
import { containerBox, mirrorX, mirrorY, ownBaseline, type Box, type Placed } from './box.js';
import type { Engine } from './engine.js';
import { hypothetical, resolveFlexibleLengths, type FlexItem } from './flexibleLengths.js';
import {
  alongWord,
  crossAlign,
  distribute,
  horizontalEdges,
  inFlow,
  isRightToLeft,
  isScroller,
  offset,
  spacing,
  startEdge,
  topEdge,
  verticalEdges,
} from './sizing.js';

/** How readily those give way that do so first: the others then give next to nothing. */
export const GIVES_FIRST = 1000;

/** Lays a column out: a single-line column flex container (CSS Flexbox §9). */
export function layoutColumn(engine: Engine, part: Part, width: number, height: number | undefined): Box {
  const inner = Math.max(0, width - horizontalEdges(part));
  const children = inFlow(part);
  const { gap, margins } = spacing(part, children);
  const innerHeight = height === undefined ? undefined : Math.max(0, height - verticalEdges(part));
  const widths = children.map((c) => engine.crossWidth(c, inner, crossAlign(part, c) === 'stretch'));
  const items = children.map((c, i) => columnItem(engine, c, widths[i] ?? 0, innerHeight));
  let gaps = 0;
  for (const [i, margin] of margins.entries()) gaps += margin + (i > 0 ? gap : 0);
  const content = items.reduce((s, item) => s + hypothetical(item), gaps);
  const outer = engine.outerHeight(part, Math.max(0, content), height);
  const room = outer - verticalEdges(part) - gaps;
  const heights = resolveFlexibleLengths(items, room);
  const free = heights.reduce((left, h) => left - h, room);
  const { start, between } = distribute(alongWord(part), children.length, free, part.rules.reverse);
  const rtl = isRightToLeft(part);
  const reverse = part.rules.reverse === true;
  const x = startEdge(part, rtl);
  let y = topEdge(part, reverse) + start;
  let placed = children.map((child, i): Placed => {
    const w = widths[i] ?? 0;
    const box = engine.place(
      child,
      w,
      heightFor(engine, child, w, heights[i] ?? 0, height !== undefined || hasOwnHeight(child)),
    );
    y += (margins[i] ?? 0) + (i > 0 ? gap + between : 0);
    const at = { box, x: x + offset(crossAlign(part, child), inner - w), y };
    y += heights[i] ?? 0;
    return at;
  });
  if (rtl) placed = mirrorX(placed, width);
  if (reverse) placed = mirrorY(placed, outer);
  // The topmost child gives the baseline (CSS Flexbox §8.5).
  const first = reverse ? placed.at(-1) : placed[0];
  return containerBox(part, width, outer, placed, first && first.y + ownBaseline(first.box));
}

/** Whether a part's height is said for what is in it, also where the column's comes from its content. */
function hasOwnHeight(part: Part): boolean {
  const { kind } = ruleOf(part.rules, 'height');
  return kind !== 'fit' && kind !== 'share';
}

/** Heights nearer than this differ by rounding alone, px. */
const NOTHING = 1 / 256;

/** A height that equals the content's is left open, so that what is inside is laid out once and kept. */
function heightFor(
  engine: Engine,
  child: Part,
  width: number,
  height: number,
  definite: boolean,
): number | undefined {
  const open = engine.place(child, width);
  return Math.abs(open.height - height) < NOTHING && !(definite && (hasShares(child) || isLimitedGrid(child)))
    ? undefined
    : height;
}

/** Rows of a grid share out a height that is said, not one that a limit made of the content's. */
const isLimitedGrid = ({ rules }: Part): boolean =>
  rules.flow === 'grid' && (rules.maxHeight !== undefined || rules.minHeight !== undefined);

const sharing = new WeakMap<Part, boolean>();

/** Whether a height in the part is a share, which counts only where the height that it shares is said. */
function hasShares(part: Part): boolean {
  let found = sharing.get(part);
  if (found === undefined) {
    found = part.children.some((c) => c.rules.height?.kind === 'share' || hasShares(c));
    sharing.set(part, found);
  }
  return found;
}

function columnItem(engine: Engine, child: Part, width: number, innerHeight: number | undefined): FlexItem {
  const own = engine.ownHeight(child, width, innerHeight);
  const { minHeight, maxHeight, givesWay } = child.rules;
  const floor = verticalEdges(child);
  const content = () => engine.place(child, width).height;
  const max = maxHeight === 'content' ? content() : (maxHeight ?? Infinity);
  const least =
    typeof minHeight === 'number'
      ? Math.max(minHeight, floor)
      : minHeight === undefined && isScroller(child)
        ? floor
        : content();
  if (own === undefined && ruleOf(child.rules, 'height').kind === 'fill') {
    const { height } = child.rules;
    return {
      base: 0,
      inner: 0,
      min: least,
      max: Math.max(least, max),
      grow: height?.kind === 'fill' ? height.weight : 1,
      shrink: 1,
    };
  }
  const base = own ?? content();
  if (givesWay !== 'first' || child.rules.height?.kind === 'ratio')
    return { base, inner: base, min: base, max: base, grow: 0, shrink: 0 };
  const min = minHeight === undefined ? Math.min(least, base) : least;
  return {
    base,
    inner: Math.max(0, base - floor),
    min,
    max: Math.max(min, max),
    grow: 0,
    shrink: GIVES_FIRST,
  };
}
