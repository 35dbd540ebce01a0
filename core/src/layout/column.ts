import { ruleOf, type Part } from '../model/index.js';
import { containerBox, mirrorX, mirrorY, ownBaseline, type Box, type Placed } from './box.js';
import type { Engine } from './engine.js';
import { factsOf, heedsHeight, mayGiveWay } from './facts.js';
import { hypothetical, resolveFlexibleLengths, type FlexItem } from './flexibleLengths.js';
import { distribute, isRightToLeft, isScroller, offset, startEdge, topEdge } from './sizing.js';

/** How readily those give way that do so first: what the others then give is too little to break a line of words. */
export const GIVES_FIRST = 1_000_000;

/** Lays a column out: a single-line column flex container (CSS Flexbox §9). */
export function layoutColumn(engine: Engine, part: Part, width: number, height: number | undefined): Box {
  const { children, gap, margins, space, horizontal, vertical, word, across, flexes } = factsOf(part);
  const inner = Math.max(0, width - horizontal);
  const innerHeight = height === undefined ? undefined : Math.max(0, height - vertical);
  const count = children.length;
  const widths = new Array<number>(count);
  for (let i = 0; i < count; i++)
    widths[i] = engine.crossWidth(children[i] as Part, inner, across[i] === 'stretch');
  let heights: readonly number[];
  let outer: number;
  if (flexes) {
    const items = children.map((c, i) => columnItem(engine, c, widths[i] ?? 0, innerHeight));
    let content = space;
    for (const item of items) content += hypothetical(item);
    outer = engine.outerHeight(part, Math.max(0, content), height);
    heights = resolveFlexibleLengths(items, outer - vertical - space);
  } else {
    const own = new Array<number>(count);
    let content = space;
    for (let i = 0; i < count; i++) {
      const child = children[i] as Part;
      const w = widths[i] as number;
      content += own[i] = engine.ownHeight(child, w, innerHeight) ?? engine.place(child, w).height;
    }
    outer = engine.outerHeight(part, Math.max(0, content), height);
    heights = own;
  }
  const room = outer - vertical - space;
  let free = room;
  for (const h of heights) free -= h;
  const { start, between } = distribute(word, children.length, free, part.rules.reverse);
  const rtl = isRightToLeft(part);
  const reverse = part.rules.reverse === true;
  const x = startEdge(part, rtl);
  let y = topEdge(part, reverse) + start;
  let placed = children.map((child, i): Placed => {
    const w = widths[i] ?? 0;
    const box = inColumn(engine, child, w, heights[i] ?? 0, height !== undefined);
    y += (margins[i] ?? 0) + (i > 0 ? gap + between : 0);
    const at = { box, x: x + offset(across[i], inner - w), y };
    y += heights[i] ?? 0;
    return at;
  });
  if (rtl) placed = mirrorX(placed, width);
  if (reverse) placed = mirrorY(placed, outer);
  // The topmost child gives the baseline (CSS Flexbox §8.5).
  const first = reverse ? placed.at(-1) : placed[0];
  return containerBox(part, width, outer, placed, first && first.y + ownBaseline(first.box));
}

/** Heights nearer than this differ by rounding alone, px. */
const NOTHING = 1 / 256;

/** A child at the height that it got: what is as high as its content is left open, so that it is laid out once. */
function inColumn(engine: Engine, child: Part, width: number, height: number, definite: boolean): Box {
  const open = engine.place(child, width);
  if (Math.abs(open.height - height) >= NOTHING) return engine.place(child, width, height);
  const { kind } = ruleOf(child.rules, 'height');
  const said = definite || (kind !== 'fit' && kind !== 'share');
  return said && heedsHeight(child) ? engine.place(child, width, height) : open;
}

const rigid = (base: number): FlexItem => ({ base, inner: base, min: base, max: base, grow: 0, shrink: 0 });

function columnItem(engine: Engine, child: Part, width: number, innerHeight: number | undefined): FlexItem {
  const own = engine.ownHeight(child, width, innerHeight);
  const { height, minHeight, maxHeight } = child.rules;
  const fills = own === undefined && height?.kind === 'fill';
  if (!fills && !mayGiveWay(child)) return rigid(own ?? engine.place(child, width).height);
  const floor = factsOf(child).vertical;
  const content = () => engine.place(child, width).height;
  const max = maxHeight === 'content' ? content() : (maxHeight ?? Infinity);
  const least =
    typeof minHeight === 'number'
      ? Math.max(minHeight, floor)
      : minHeight === undefined && isScroller(child)
        ? floor
        : content();
  if (fills)
    return { base: floor, inner: 0, min: least, max: Math.max(least, max), grow: height.weight, shrink: 1 };
  const base = own ?? content();
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
