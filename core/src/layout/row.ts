import type { Align } from '../model/index.js';
import { containerBox, mirrorX, ownBaseline, type Box } from './box.js';
import { GIVES_FIRST } from './column.js';
import type { Engine } from './engine.js';
import { heedsHeight, type Facts } from './facts.js';
import { hypothetical, resolveFlexibleLengths, type FlexItem } from './flexibleLengths.js';
import { distribute, gapPx, isRightToLeft, isScroller, offset, startEdge } from './sizing.js';

/** A wrapped line is full when the next child would be this much too far: browsers count in 1/64 px. */
const LINE_SLACK = 1 / 64;

/** A child along a line, px. What does not depend on the line's width is found once. */
function rowItem(engine: Engine, child: Facts, inner: number, wraps: boolean): FlexItem {
  const { minWidth } = child.part.rules;
  const depends = child.width.kind === 'share' || (wraps && typeof minWidth === 'number' && minWidth > inner);
  if (depends) return itemAt(engine, child, inner, wraps);
  const memo = engine.memoOf(child);
  return wraps
    ? (memo.inWrap ??= itemAt(engine, child, inner, true))
    : (memo.inRow ??= itemAt(engine, child, inner, false));
}

function itemAt(engine: Engine, child: Facts, inner: number, wraps: boolean): FlexItem {
  const { part, width } = child;
  const { rules } = part;
  const floor = child.horizontal;
  const limits = engine.intrinsic.limits(part);
  // In a wrap a min in px never asks for more than the whole line.
  const own = wraps && typeof rules.minWidth === 'number' ? Math.min(rules.minWidth, inner) : limits.min;
  const limit = (auto: number) => Math.max(floor, own ?? auto);
  const max = limits.max ?? Infinity;
  const gives = rules.givesWay === 'first' ? GIVES_FIRST : rules.givesWay === 'never' ? 0 : undefined;
  const plain = width.kind === 'fill' ? undefined : engine.plainWidth(child, inner);
  if (plain !== undefined) {
    const shrink = width.kind === 'ratio' ? 0 : (gives ?? 0);
    // What a size of its own asks for at least is never more than its content does (CSS Flexbox §4.5).
    const auto =
      shrink > 0 && !isScroller(part)
        ? Math.min(plain, Math.max(floor, engine.intrinsic.content(part).min), max)
        : 0;
    const min = limit(auto);
    const base = Math.max(plain, floor);
    return { base, inner: base - floor, min, max: Math.max(min, max), grow: 0, shrink };
  }
  if (width.kind === 'fill') {
    const min = limit(0);
    return { base: floor, inner: 0, min, max: Math.max(min, max), grow: width.weight, shrink: 1 };
  }
  const content = engine.intrinsic.content(part);
  const min = limit(isScroller(part) ? 0 : Math.min(content.min, max));
  return {
    base: content.max,
    inner: Math.max(0, content.max - floor),
    min,
    max: Math.max(min, max),
    grow: 0,
    shrink: gives ?? 1,
  };
}

/** The children along their lines. */
function lineItems(engine: Engine, facts: Facts, inner: number, wraps: boolean): readonly FlexItem[] {
  if (facts.sharesWidth || (wraps && facts.largestMin > inner))
    return facts.kids.map((c) => rowItem(engine, c, inner, wraps));
  return (engine.memoOf(facts).items ??= facts.kids.map((c) => rowItem(engine, c, inner, wraps)));
}

/** The indices at which lines begin (CSS Flexbox §9.3); a line holds at least one child. */
function lineStarts(items: readonly FlexItem[], { gap, margins }: Facts, inner: number): number[] {
  const starts: number[] = [];
  let used = 0;
  for (let i = 0; i < items.length; i++) {
    const size = hypothetical(items[i] as FlexItem) + (margins[i] as number);
    const needed = used + gap + size;
    if (i > 0 && needed <= inner + LINE_SLACK) used = needed;
    else {
      starts.push(i);
      used = size;
    }
  }
  return starts;
}

/** A child on its line: where it stands down the page is not known before the line's height is. */
interface OnLine {
  box: Box;
  readonly x: number;
  y: number;
}

/** One line of a row before its parts are stretched and aligned: the children from `from` up to `to`. */
interface LineOfBoxes {
  readonly from: number;
  readonly to: number;
  readonly ascent: number;
  readonly height: number;
}

/**
 * Where the children of a line stand along it (CSS Flexbox §9.7, §9.5), written to `placed`, and how high it is (§9.4
 * steps 7 and 8).
 */
function layLine(
  engine: Engine,
  facts: Facts,
  items: readonly FlexItem[],
  from: number,
  inner: number,
  innerHeight: number | undefined,
  begin: number,
  placed: OnLine[],
): LineOfBoxes {
  const { part, kids, gap, margins, word, onLine } = facts;
  const count = items.length;
  let room = inner - gap * (count - 1);
  for (let k = 0; k < count; k++) room -= margins[from + k] as number;
  const widths = resolveFlexibleLengths(items, room);
  let free = room;
  for (let k = 0; k < count; k++) free -= widths[k] as number;
  const { start, between } = distribute(word, count, free, part.rules.reverse);
  let x = begin + start;
  let ascent = -Infinity;
  for (let k = 0; k < count; k++) {
    const child = kids[from + k] as Facts;
    const w = widths[k] as number;
    x += (margins[from + k] as number) + (k > 0 ? gap + between : 0);
    const box = engine.place(child, w, engine.ownHeight(child, w, innerHeight));
    placed[from + k] = { box, x, y: 0 };
    x += w;
    if (onLine[from + k] === 'baseline') ascent = Math.max(ascent, ownBaseline(box));
  }
  const to = from + count;
  let height = 0;
  for (let i = from; i < to; i++) {
    const { box } = placed[i] as OnLine;
    const below = onLine[i] === 'baseline' ? ascent - ownBaseline(box) : 0;
    height = Math.max(height, below + box.height);
  }
  return { from, to, ascent, height };
}

/** A box as high as its line, where its own rules let it be. */
function stretched(engine: Engine, child: Facts, box: Box, height: number): Box {
  const { kind } = child.height;
  if (kind !== 'fill' && kind !== 'fit') return box;
  const own = engine.clampHeight(child, box.width, height);
  return own === box.height && !heedsHeight(child) ? box : engine.place(child, box.width, own);
}

/** Stretches and aligns a line's boxes in its height (CSS Flexbox §9.4 step 11, §9.6); gives the line's baseline. */
function alignInLine(
  engine: Engine,
  { part, kids, onLine }: Facts,
  { from, to, ascent }: LineOfBoxes,
  y: number,
  height: number,
  placed: readonly OnLine[],
): number | undefined {
  let isBased = false;
  let leading: number | undefined;
  const lead = part.rules.reverse ? to - 1 : from;
  for (let i = from; i < to; i++) {
    const align: Align = onLine[i] ?? 'start';
    const own = placed[i] as OnLine;
    if (align === 'stretch') own.box = stretched(engine, kids[i] as Facts, own.box, height);
    if (align === 'baseline') isBased = true;
    const { box } = own;
    own.y = y + (align === 'baseline' ? ascent - ownBaseline(box) : offset(align, height - box.height));
    if (i === lead) leading = own.y + ownBaseline(box);
  }
  return isBased ? y + ascent : leading;
}

/** A row has one line, which begins with its first child. */
const ONE_LINE: readonly number[] = [0];

/** Lays a row or wrap out: a row flex container (CSS Flexbox §9). */
export function layoutRows(
  engine: Engine,
  facts: Facts,
  width: number,
  height: number | undefined,
  wraps: boolean,
): Box {
  const { part } = facts;
  const { rules } = part;
  const mirrored = isRightToLeft(part) !== (rules.reverse === true);
  const inner = Math.max(0, width - facts.horizontal);
  const innerHeight = height === undefined ? undefined : Math.max(0, height - facts.vertical);
  const items = lineItems(engine, facts, inner, wraps);
  const starts = wraps ? lineStarts(items, facts, inner) : ONE_LINE;
  const crossGap = rules.crossGap ?? Math.max(0, gapPx(part));
  const begin = mirrored ? startEdge(part, true) : facts.left;
  let content = crossGap * Math.max(0, starts.length - 1);
  const placed = new Array<OnLine>(items.length);
  const lines = new Array<LineOfBoxes>(starts.length);
  for (let n = 0; n < starts.length; n++) {
    const from = starts[n] as number;
    const own = starts.length === 1 ? items : items.slice(from, starts[n + 1]);
    const line = layLine(engine, facts, own, from, inner, innerHeight, begin, placed);
    lines[n] = line;
    content += line.height;
  }
  const outer = engine.outerHeight(facts, content, height);
  const free = outer - facts.vertical - content;
  const spread = wraps ? rules.alignLines : undefined;
  const stretch = wraps ? (spread === 'stretch' && free > 0 ? free / lines.length : 0) : free;
  const { start, between } = distribute(spread, lines.length, free);
  let y = facts.top + start;
  let baseline: number | undefined;
  for (let n = 0; n < lines.length; n++) {
    const line = lines[n] as LineOfBoxes;
    if (n > 0) y += crossGap + between;
    const tall = line.height + stretch;
    const own = alignInLine(engine, facts, line, y, tall, placed);
    if (n === 0) baseline = own;
    y += tall;
  }
  return containerBox(part, width, outer, mirrored ? mirrorX(placed, width) : placed, baseline);
}
