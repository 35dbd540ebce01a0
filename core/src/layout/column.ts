import { containerBox, mirrorX, mirrorY, ownBaseline, type Box, type Placed } from './box.js';
import type { Engine } from './engine.js';
import { heedsHeight, mayGiveWay, type Facts } from './facts.js';
import { hypothetical, resolveFlexibleLengths, type FlexItem } from './flexibleLengths.js';
import { distribute, isRightToLeft, isScroller, offset, startEdge, topEdge } from './sizing.js';

/** How readily those give way that do so first: what the others then give is too little to break a line of words. */
export const GIVES_FIRST = 1_000_000;

/** Lays a column out: a single-line column flex container (CSS Flexbox §9). */
export function layoutColumn(engine: Engine, facts: Facts, width: number, height: number | undefined): Box {
  const { part, kids, gap, margins, space, horizontal, vertical, word, across, flexes } = facts;
  const inner = Math.max(0, width - horizontal);
  const innerHeight = height === undefined ? undefined : Math.max(0, height - vertical);
  const count = kids.length;
  if (facts.isPlainColumn) return plainColumn(engine, facts, width, height, inner, innerHeight);
  const widths = new Array<number>(count);
  for (let i = 0; i < count; i++)
    widths[i] = engine.crossWidth(kids[i] as Facts, inner, across[i] === 'stretch');
  let heights: readonly number[];
  let outer: number;
  if (flexes) {
    const items = kids.map((c, i) => columnItem(engine, c, widths[i] ?? 0, innerHeight));
    let content = space;
    for (const item of items) content += hypothetical(item);
    outer = engine.outerHeight(facts, Math.max(0, content), height);
    heights = resolveFlexibleLengths(items, outer - vertical - space);
  } else {
    const own = new Array<number>(count);
    let content = space;
    for (let i = 0; i < count; i++) {
      const child = kids[i] as Facts;
      const w = widths[i] as number;
      content += own[i] = engine.ownHeight(child, w, innerHeight) ?? engine.place(child, w).height;
    }
    outer = engine.outerHeight(facts, Math.max(0, content), height);
    heights = own;
  }
  let free = outer - vertical - space;
  for (let i = 0; i < count; i++) free -= heights[i] as number;
  const { start, between } = distribute(word, count, free, part.rules.reverse);
  const rtl = isRightToLeft(part);
  const reverse = part.rules.reverse === true;
  const x = startEdge(part, rtl);
  let y = topEdge(part, reverse) + start;
  let placed = new Array<Placed>(count);
  for (let i = 0; i < count; i++) {
    const w = widths[i] as number;
    const tall = heights[i] as number;
    y += (margins[i] as number) + (i > 0 ? gap + between : 0);
    const box = inColumn(engine, kids[i] as Facts, w, tall, height !== undefined);
    placed[i] = { box, x: x + offset(across[i], inner - w), y };
    y += tall;
  }
  if (rtl) placed = mirrorX(placed, width);
  if (reverse) placed = mirrorY(placed, outer);
  // The topmost child gives the baseline (CSS Flexbox §8.5).
  const first = reverse ? placed.at(-1) : placed[0];
  return containerBox(part, width, outer, placed, first && first.y + ownBaseline(first.box));
}

/** A column whose children stand one below another from its top, as high as they are: in one go. */
function plainColumn(
  engine: Engine,
  facts: Facts,
  width: number,
  height: number | undefined,
  inner: number,
  innerHeight: number | undefined,
): Box {
  const { part, kids, gap, margins, space, across, left: x } = facts;
  const count = kids.length;
  let y = facts.top;
  let content = space;
  const placed = new Array<Placed>(count);
  for (let i = 0; i < count; i++) {
    const child = kids[i] as Facts;
    const w = engine.crossWidth(child, inner, across[i] === 'stretch');
    const own = engine.ownHeight(child, w, innerHeight);
    const open = own === undefined ? engine.place(child, w) : undefined;
    const tall = own ?? (open as Box).height;
    const isOpen = open !== undefined && height === undefined && child.height.kind === 'fit';
    const box = isOpen ? open : inColumn(engine, child, w, tall, height !== undefined);
    y += (margins[i] as number) + (i > 0 ? gap : 0);
    placed[i] = { box, x: x + offset(across[i], inner - w), y };
    y += tall;
    content += tall;
  }
  const [first] = placed;
  return containerBox(
    part,
    width,
    engine.outerHeight(facts, Math.max(0, content), height),
    placed,
    first && first.y + ownBaseline(first.box),
  );
}

/** Heights nearer than this differ by rounding alone, px. */
const NOTHING = 1 / 256;

/** A child at the height that it got: what is as high as its content is left open, so that it is laid out once. */
function inColumn(engine: Engine, child: Facts, width: number, height: number, definite: boolean): Box {
  const open = engine.place(child, width);
  if (Math.abs(open.height - height) >= NOTHING) return engine.place(child, width, height);
  const { kind } = child.height;
  const said = definite || (kind !== 'fit' && kind !== 'share');
  return said && heedsHeight(child) ? engine.place(child, width, height) : open;
}

const rigid = (base: number): FlexItem => ({ base, inner: base, min: base, max: base, grow: 0, shrink: 0 });

function columnItem(engine: Engine, child: Facts, width: number, innerHeight: number | undefined): FlexItem {
  const own = engine.ownHeight(child, width, innerHeight);
  const { rules } = child.part;
  const { minHeight, maxHeight } = rules;
  const { height } = child;
  const fills = own === undefined && height.kind === 'fill';
  if (!fills && !mayGiveWay(child.part)) return rigid(own ?? engine.place(child, width).height);
  const floor = child.vertical;
  const content = () => engine.place(child, width).height;
  const max = maxHeight === 'content' ? content() : (maxHeight ?? Infinity);
  const least =
    typeof minHeight === 'number'
      ? Math.max(minHeight, floor)
      : minHeight === undefined && isScroller(child.part)
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
