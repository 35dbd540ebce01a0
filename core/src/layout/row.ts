import { ruleOf, type Part } from '../model/index.js';
import { containerBox, mirrorX, ownBaseline, type Box, type Placed } from './box.js';
import { GIVES_FIRST } from './column.js';
import type { Engine } from './engine.js';
import { hypothetical, resolveFlexibleLengths, type FlexItem } from './flexibleLengths.js';
import {
  alongWord,
  distribute,
  gapPx,
  horizontalEdges,
  inFlow,
  isRightToLeft,
  isScroller,
  lineAlign,
  offset,
  spacing,
  startEdge,
  topEdge,
  verticalEdges,
  type Spacing,
} from './sizing.js';

/** A wrapped line is full when the next child would be this much too far: browsers count in 1/64 px. */
const LINE_SLACK = 1 / 64;

function rowItem(engine: Engine, child: Part, inner: number, wraps: boolean): FlexItem {
  const { rules } = child;
  const width = ruleOf(rules, 'width');
  const floor = horizontalEdges(child);
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
function breakIntoLines(items: readonly FlexItem[], { gap, margins }: Spacing, inner: number): number[][] {
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
  readonly xs: readonly number[];
  readonly ascent: number;
  readonly height: number;
}

/** The heights on a line and how high it is (CSS Flexbox §9.4 steps 7 and 8). */
function measureLine(
  engine: Engine,
  part: Part,
  children: readonly Part[],
  widths: readonly number[],
  innerHeight: number | undefined,
): Omit<LineOfBoxes, 'xs'> {
  let [ascent, height] = [-Infinity, 0];
  const boxes = children.map((c, i) => {
    const w = widths[i] ?? 0;
    return engine.place(c, w, engine.ownHeight(c, w, innerHeight));
  });
  for (const b of boxes)
    if (lineAlign(part, b.part) === 'baseline') ascent = Math.max(ascent, ownBaseline(b));
  for (const b of boxes)
    height = Math.max(
      height,
      lineAlign(part, b.part) === 'baseline' ? ascent - ownBaseline(b) + b.height : b.height,
    );
  return { boxes, ascent, height };
}

/** Stretches and aligns a line's boxes in its height (CSS Flexbox §9.4 step 11, §9.6). */
export function alignInLine(
  engine: Engine,
  part: Part,
  boxes: readonly Box[],
  ascent: number,
  height: number,
): { boxes: Box[]; offsets: number[]; baseline?: number } {
  const stretched = boxes.map((box) => {
    const { kind } = ruleOf(box.part.rules, 'height');
    const auto = kind === 'fill' || kind === 'fit';
    if (!auto || lineAlign(part, box.part) !== 'stretch') return box;
    const own = engine.clampHeight(box.part, box.width, height);
    return engine.place(box.part, box.width, own);
  });
  let based = false;
  const offsets = stretched.map((box) => {
    const align = lineAlign(part, box.part);
    based ||= align === 'baseline';
    return align === 'baseline' ? ascent - ownBaseline(box) : offset(align, height - box.height);
  });
  const k = part.rules.reverse ? stretched.length - 1 : 0;
  const lead = stretched[k];
  const first = based ? ascent : lead && (offsets[k] ?? 0) + ownBaseline(lead);
  return { boxes: stretched, offsets, ...(first !== undefined && { baseline: first }) };
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
  const mirrored = isRightToLeft(part) !== (rules.reverse === true);
  const inner = Math.max(0, width - horizontalEdges(part));
  const innerHeight = height === undefined ? undefined : Math.max(0, height - verticalEdges(part));
  const children = inFlow(part);
  const space = spacing(part, children);
  const items = children.map((c) => rowItem(engine, c, inner, wraps));
  const broken = wraps ? breakIntoLines(items, space, inner) : [children.map((_, i) => i)];
  const crossGap = rules.crossGap ?? Math.max(0, gapPx(part));
  const lines = broken.map((line): LineOfBoxes => {
    let gaps = 0;
    line.forEach((i, k) => (gaps += (space.margins[i] ?? 0) + (k > 0 ? space.gap : 0)));
    const room = inner - gaps;
    const widths = resolveFlexibleLengths(
      line.map((i) => items[i] as FlexItem),
      room,
    );
    const free = widths.reduce((left, w) => left - w, room);
    const { start, between } = distribute(alongWord(part), line.length, free, rules.reverse);
    let x = startEdge(part, mirrored) + start;
    const xs = line.map((i, k) => {
      x += (space.margins[i] ?? 0) + (k > 0 ? space.gap + between : 0);
      const at = x;
      x += widths[k] ?? 0;
      return at;
    });
    const parts = line.map((i) => children[i] as Part);
    return { ...measureLine(engine, part, parts, widths, innerHeight), xs };
  });
  const content = lines.reduce((s, l) => s + l.height, crossGap * Math.max(0, lines.length - 1));
  const outer = engine.outerHeight(part, content, height);
  const free = outer - verticalEdges(part) - content;
  const word = wraps ? rules.alignLines : undefined;
  const stretch = wraps ? (word === 'stretch' && free > 0 ? free / lines.length : 0) : free;
  const { start, between } = distribute(word, lines.length, free);
  let y = topEdge(part) + start;
  let baseline: number | undefined;
  let placed: Placed[] = [];
  for (const [n, line] of lines.entries()) {
    if (n > 0) y += crossGap + between;
    const tall = line.height + stretch;
    const row = alignInLine(engine, part, line.boxes, line.ascent, tall);
    row.boxes.forEach((box, k) => placed.push({ box, x: line.xs[k] ?? 0, y: y + (row.offsets[k] ?? 0) }));
    if (n === 0 && row.baseline !== undefined) baseline = y + row.baseline;
    y += tall;
  }
  if (mirrored) placed = mirrorX(placed, width);
  return containerBox(part, width, outer, placed, baseline);
}
