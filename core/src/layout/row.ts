import { ruleOf, type Align, type Part } from '../model/index.js';
import { containerBox, mirrorX, ownBaseline, type Box, type Placed } from './box.js';
import { GIVES_FIRST } from './column.js';
import type { Engine } from './engine.js';
import { hypothetical, resolveFlexibleLengths, type FlexItem } from './flexibleLengths.js';
import { factsOf, heedsHeight, type Facts } from './facts.js';
import { distribute, gapPx, isRightToLeft, isScroller, offset, startEdge, topEdge } from './sizing.js';

/** A wrapped line is full when the next child would be this much too far: browsers count in 1/64 px. */
const LINE_SLACK = 1 / 64;

/** A child along a line, px. What does not depend on the line's width is found once. */
function rowItem(engine: Engine, child: Part, inner: number, wraps: boolean): FlexItem {
  const { width, minWidth } = child.rules;
  const depends = width?.kind === 'share' || (wraps && typeof minWidth === 'number' && minWidth > inner);
  if (depends) return itemAt(engine, child, inner, wraps);
  const known = engine.items[wraps ? 1 : 0];
  let item = known.get(child);
  if (!item) known.set(child, (item = itemAt(engine, child, inner, wraps)));
  return item;
}

function itemAt(engine: Engine, child: Part, inner: number, wraps: boolean): FlexItem {
  const { rules } = child;
  const width = ruleOf(rules, 'width');
  const floor = factsOf(child).horizontal;
  const limits = engine.intrinsic.limits(child);
  // In a wrap a min in px never asks for more than the whole line.
  const own = wraps && typeof rules.minWidth === 'number' ? Math.min(rules.minWidth, inner) : limits.min;
  const limit = (auto: number) => Math.max(floor, own ?? auto);
  const max = limits.max ?? Infinity;
  const gives = rules.givesWay === 'first' ? GIVES_FIRST : rules.givesWay === 'never' ? 0 : undefined;
  const plain = width.kind === 'fill' ? undefined : engine.plainWidth(child, width, inner);
  if (plain !== undefined) {
    const shrink = width.kind === 'ratio' ? 0 : (gives ?? 0);
    // What a size of its own asks for at least is never more than its content does (CSS Flexbox §4.5).
    const auto =
      shrink > 0 && !isScroller(child)
        ? Math.min(plain, Math.max(floor, engine.intrinsic.content(child).min), max)
        : 0;
    const min = limit(auto);
    const base = Math.max(plain, floor);
    return { base, inner: base - floor, min, max: Math.max(min, max), grow: 0, shrink };
  }
  if (width.kind === 'fill') {
    const min = limit(0);
    return { base: floor, inner: 0, min, max: Math.max(min, max), grow: width.weight, shrink: 1 };
  }
  const content = engine.intrinsic.content(child);
  const min = limit(isScroller(child) ? 0 : Math.min(content.min, max));
  return {
    base: content.max,
    inner: Math.max(0, content.max - floor),
    min,
    max: Math.max(min, max),
    grow: 0,
    shrink: gives ?? 1,
  };
}

/** Collects children into lines (CSS Flexbox §9.3); a line holds at least one. */
function breakIntoLines(
  items: readonly FlexItem[],
  { gap, margins }: Pick<Facts, 'gap' | 'margins'>,
  inner: number,
): number[][] {
  const lines: number[][] = [];
  let used = 0;
  items.forEach((item, i) => {
    const size = hypothetical(item) + (margins[i] ?? 0);
    const line = lines.at(-1);
    const needed = used + gap + size;
    if (line && needed <= inner + LINE_SLACK) {
      line.push(i);
      used = needed;
    } else {
      lines.push([i]);
      used = size;
    }
  });
  return lines;
}

/** One line of a row before its parts are stretched and aligned. */
interface LineOfBoxes {
  readonly boxes: readonly Box[];
  readonly aligns: readonly Align[];
  readonly xs: readonly number[];
  readonly ascent: number;
  readonly height: number;
}

/** The heights on a line and how high it is (CSS Flexbox §9.4 steps 7 and 8). */
function measureLine(
  engine: Engine,
  children: readonly Part[],
  aligns: readonly Align[],
  widths: readonly number[],
  innerHeight: number | undefined,
  xs: readonly number[],
): LineOfBoxes {
  let [ascent, height] = [-Infinity, 0];
  const boxes = children.map((c, i) => {
    const w = widths[i] ?? 0;
    const box = engine.place(c, w, engine.ownHeight(c, w, innerHeight));
    if (aligns[i] === 'baseline') ascent = Math.max(ascent, ownBaseline(box));
    return box;
  });
  boxes.forEach((b, i) => {
    const below = aligns[i] === 'baseline' ? ascent - ownBaseline(b) : 0;
    height = Math.max(height, below + b.height);
  });
  return { boxes, aligns, xs, ascent, height };
}

/** A box as high as its line, where its own rules let it be. */
function stretched(engine: Engine, box: Box, height: number): Box {
  const { part, width } = box;
  const { kind } = ruleOf(part.rules, 'height');
  if (kind !== 'fill' && kind !== 'fit') return box;
  const own = engine.clampHeight(part, width, height);
  return own === box.height && !heedsHeight(part) ? box : engine.place(part, width, own);
}

/** Stretches and aligns a line's boxes in its height (CSS Flexbox §9.4 step 11, §9.6). */
function alignInLine(
  engine: Engine,
  part: Part,
  { boxes, aligns, ascent }: LineOfBoxes,
  height: number,
): { boxes: readonly Box[]; offsets: readonly number[]; baseline: number | undefined } {
  const final = boxes.map((box, i) => (aligns[i] === 'stretch' ? stretched(engine, box, height) : box));
  const offsets = final.map((box, i) =>
    aligns[i] === 'baseline' ? ascent - ownBaseline(box) : offset(aligns[i], height - box.height),
  );
  const k = part.rules.reverse ? final.length - 1 : 0;
  const lead = final[k];
  const baseline = aligns.includes('baseline') ? ascent : lead && (offsets[k] ?? 0) + ownBaseline(lead);
  return { boxes: final, offsets, baseline };
}

/** Lays a row or wrap out: a row flex container (CSS Flexbox §9). */
export function layoutRows(
  engine: Engine,
  part: Part,
  width: number,
  height: number | undefined,
  wraps: boolean,
): Box {
  const { rules } = part;
  const facts = factsOf(part);
  const { children, word } = facts;
  const mirrored = isRightToLeft(part) !== (rules.reverse === true);
  const inner = Math.max(0, width - facts.horizontal);
  const innerHeight = height === undefined ? undefined : Math.max(0, height - facts.vertical);
  const items = children.map((c) => rowItem(engine, c, inner, wraps));
  const broken = wraps ? breakIntoLines(items, facts, inner) : [children.map((_, i) => i)];
  const crossGap = rules.crossGap ?? Math.max(0, gapPx(part));
  const lines = broken.map((line): LineOfBoxes => {
    let gaps = 0;
    line.forEach((i, k) => (gaps += (facts.margins[i] ?? 0) + (k > 0 ? facts.gap : 0)));
    const room = inner - gaps;
    const widths = resolveFlexibleLengths(
      line.map((i) => items[i] as FlexItem),
      room,
    );
    const free = widths.reduce((left, w) => left - w, room);
    const { start, between } = distribute(word, line.length, free, rules.reverse);
    let x = startEdge(part, mirrored) + start;
    const xs = line.map((i, k) => {
      x += (facts.margins[i] ?? 0) + (k > 0 ? facts.gap + between : 0);
      const at = x;
      x += widths[k] ?? 0;
      return at;
    });
    const parts = line.map((i) => children[i] as Part);
    const aligns = line.map((i) => facts.onLine[i] ?? 'start');
    return measureLine(engine, parts, aligns, widths, innerHeight, xs);
  });
  const content = lines.reduce((s, l) => s + l.height, crossGap * Math.max(0, lines.length - 1));
  const outer = engine.outerHeight(part, content, height);
  const free = outer - facts.vertical - content;
  const spread = wraps ? rules.alignLines : undefined;
  const stretch = wraps ? (spread === 'stretch' && free > 0 ? free / lines.length : 0) : free;
  const { start, between } = distribute(spread, lines.length, free);
  let y = topEdge(part) + start;
  let baseline: number | undefined;
  let placed: Placed[] = [];
  for (const [n, line] of lines.entries()) {
    if (n > 0) y += crossGap + between;
    const tall = line.height + stretch;
    const row = alignInLine(engine, part, line, tall);
    row.boxes.forEach((box, k) => placed.push({ box, x: line.xs[k] ?? 0, y: y + (row.offsets[k] ?? 0) }));
    if (n === 0 && row.baseline !== undefined) baseline = y + row.baseline;
    y += tall;
  }
  if (mirrored) placed = mirrorX(placed, width);
  return containerBox(part, width, outer, placed, baseline);
}
