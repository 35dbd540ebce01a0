import { ruleOf, type Part, type Size } from '../model/index.js';
import { breakLines, firstBaseline, type TextMeasurer } from '../text/index.js';
import type { Box, Placed } from './box.js';
import { hypothetical, resolveFlexibleLengths, type FlexItem } from './flexibleLengths.js';
import { IntrinsicWidths } from './intrinsic.js';
import {
  clampSize,
  crossAlign,
  distribute,
  horizontalPadding,
  inFlow,
  lineAlign,
  pinned,
  repeatCount,
  spacing,
  verticalPadding,
  type Spacing,
} from './sizing.js';

const sum = (numbers: readonly number[]): number => numbers.reduce((s, n) => s + n, 0);
/** A wrapped line is full when the next child would be this much too far: browsers count in 1/64 px. */
const LINE_SLACK = 1 / 64;

/**
 * Lays parts out as a browser lays out the CSS that the rules compile to (see `handoff/css.ts`, which writes that
 * CSS). One engine keeps what it has laid out by part and constraint, so that an edit or another width costs only
 * what really changes. Widths and heights are outer px.
 */
export class Engine {
  readonly #measurer: TextMeasurer;
  readonly #intrinsic: IntrinsicWidths;
  readonly #boxes = new WeakMap<Part, Map<string, Box>>();

  constructor(measurer: TextMeasurer) {
    this.#measurer = measurer;
    this.#intrinsic = new IntrinsicWidths(measurer);
  }

  /** The widths that a part's content asks for. */
  get intrinsic(): IntrinsicWidths {
    return this.#intrinsic;
  }

  /** Lays the frame out: its own height and limits hold, the width comes from outside. */
  frame(root: Part, width: number): Box {
    const own = this.#clampWidth(root, width);
    return this.place(root, own, this.#ownHeight(root, own, undefined));
  }

  /** Lays a part out at a width; without a height it is as high as its content, within its limits. */
  place(part: Part, width: number, height?: number): Box {
    let known = this.#boxes.get(part);
    if (!known) this.#boxes.set(part, (known = new Map<string, Box>()));
    const key = `${width}|${height ?? ''}`;
    let box = known.get(key);
    if (!box) {
      // A drag passes over many widths; what a part looked like at the oldest is not worth its memory.
      if (known.size > 64) known.clear();
      box = this.#layout(part, width, height);
      known.set(key, box);
    }
    return box;
  }

  #layout(part: Part, width: number, height: number | undefined): Box {
    if (part.content?.kind === 'text') return this.#text(part, width, height);
    if (part.kind !== 'container') {
      const own = clampSize(
        height ?? 0,
        this.#minHeight(part, 0),
        part.rules.maxHeight,
        verticalPadding(part.rules),
      );
      return { part, width, height: height ?? own, children: [] };
    }
    const flowed = this.#flow(part, width, height);
    const pins = pinned(part);
    if (pins.length === 0) return flowed;
    const placed = new Map(pins.map((p) => [p, this.#pin(p, flowed.width, flowed.height)]));
    const rest = flowed.children.values();
    const children = part.children
      .filter((c) => !c.rules.hidden)
      .map((c) => placed.get(c) ?? rest.next().value)
      .filter((c) => c !== undefined);
    return { ...flowed, children };
  }

  #text(part: Part, width: number, height: number | undefined): Box {
    const { content } = part;
    if (content?.kind !== 'text') throw new TypeError(`The part ${part.id} has no text.`);
    const padding = part.rules.padding;
    const lines = breakLines(content, width - horizontalPadding(part.rules), this.#measurer);
    const own = lines.length * content.lineHeight + verticalPadding(part.rules);
    const clamped = clampSize(
      own,
      this.#minHeight(part, own),
      part.rules.maxHeight,
      verticalPadding(part.rules),
    );
    const baseline = firstBaseline(content, this.#measurer) + (padding?.top ?? 0);
    return { part, width, height: height ?? clamped, children: [], lines, baseline };
  }

  #minHeight(part: Part, content: number): number | undefined {
    return part.rules.minHeight === 'content' ? content : part.rules.minHeight;
  }

  #flow(part: Part, width: number, height: number | undefined): Box {
    switch (ruleOf(part.rules, 'flow')) {
      case 'column':
        return this.#column(part, width, height);
      case 'row':
        return this.#rows(part, width, height, false);
      case 'wrap':
        return this.#rows(part, width, height, true);
      case 'grid':
        return this.#grid(part, width, height);
      case 'free':
        return { part, width, height: this.#outerHeight(part, 0, height), children: [] };
    }
  }

  /** The outer height of a container: the one given, else its content's within the limits. */
  #outerHeight(part: Part, content: number, height: number | undefined): number {
    if (height !== undefined) return height;
    const padding = verticalPadding(part.rules);
    return clampSize(
      content + padding,
      this.#minHeight(part, content + padding),
      part.rules.maxHeight,
      padding,
    );
  }

  #clampWidth(part: Part, width: number): number {
    return clampSize(
      width,
      this.#intrinsic.minWidth(part),
      part.rules.maxWidth,
      horizontalPadding(part.rules),
    );
  }

  #fitWidth(part: Part, available: number): number {
    const { min, max } = this.#intrinsic.content(part);
    return Math.min(max, Math.max(min, available));
  }

  /** The width of a size that does not depend on its siblings; `stretch` is what `fit` becomes when it is stretched. */
  #crossWidth(part: Part, inner: number, stretched: boolean): number {
    const width = ruleOf(part.rules, 'width');
    return this.#clampWidth(
      part,
      this.#plainWidth(part, width, inner) ?? (stretched ? inner : this.#fitWidth(part, inner)),
    );
  }

  #plainWidth(part: Part, width: Size, inner: number): number | undefined {
    if (width.kind === 'fixed') return width.px;
    if (width.kind === 'fill') return inner;
    if (width.kind === 'share') return (inner * width.percent) / 100;
    if (width.kind === 'ratio' && part.rules.height?.kind === 'fixed')
      return (part.rules.height.px * width.width) / width.height;
    return undefined;
  }

  /** The height that a part's own rule fixes at this width; undefined when its content decides. */
  #ownHeight(part: Part, width: number, inner: number | undefined): number | undefined {
    const height = ruleOf(part.rules, 'height');
    let px: number | undefined;
    if (height.kind === 'fixed') px = height.px;
    else if (height.kind === 'ratio') px = (width * height.height) / height.width;
    else if (height.kind === 'share' && inner !== undefined) px = (inner * height.percent) / 100;
    if (px === undefined) return undefined;
    return this.#clampHeight(part, width, px);
  }

  #clampHeight(part: Part, width: number, px: number): number {
    const min = part.rules.minHeight === 'content' ? this.place(part, width).height : part.rules.minHeight;
    return clampSize(px, min, part.rules.maxHeight, verticalPadding(part.rules));
  }

  #column(part: Part, width: number, height: number | undefined): Box {
    const { rules } = part;
    const inner = Math.max(0, width - horizontalPadding(rules));
    const children = inFlow(part);
    const { gap, margins } = spacing(part, children);
    const gaps = margins.map((m, i) => m + (i > 0 ? gap : 0));
    const innerHeight = height === undefined ? undefined : Math.max(0, height - verticalPadding(rules));
    const widths = children.map((c) => this.#crossWidth(c, inner, crossAlign(part, c) === 'stretch'));
    const items = children.map((c, i) => this.#columnItem(c, widths[i] ?? 0, innerHeight));
    const content = sum(items.map(hypothetical)) + sum(gaps);
    const outer = this.#outerHeight(part, Math.max(0, content), height);
    const room = outer - verticalPadding(rules) - sum(gaps);
    const heights = resolveFlexibleLengths(items, room);
    const { start, between } = distribute(part, children.length, room - sum(heights));
    let y = (rules.padding?.top ?? 0) + start;
    let baseline: number | undefined;
    const placed = children.map((child, i): Placed => {
      const w = widths[i] ?? 0;
      const box = this.place(child, w, this.#heightFor(child, w, heights[i] ?? 0));
      y += (gaps[i] ?? 0) + (i > 0 ? between : 0);
      const at = { box, x: (rules.padding?.left ?? 0) + offset(crossAlign(part, child), inner - w), y };
      if (i === 0) baseline = y + ownBaseline(box);
      y += heights[i] ?? 0;
      return at;
    });
    return { part, width, height: outer, children: placed, ...(baseline !== undefined && { baseline }) };
  }

  /** A height that equals the content's is left open, so that what is inside is laid out once and kept. */
  #heightFor(child: Part, width: number, height: number): number | undefined {
    return this.place(child, width).height === height ? undefined : height;
  }

  #columnItem(child: Part, width: number, innerHeight: number | undefined): FlexItem {
    const own = this.#ownHeight(child, width, innerHeight);
    const { minHeight, maxHeight } = child.rules;
    const max = maxHeight ?? Infinity;
    if (own === undefined && ruleOf(child.rules, 'height').kind === 'fill') {
      const { height } = child.rules;
      const content = this.place(child, width).height;
      const min = typeof minHeight === 'number' ? Math.max(minHeight, verticalPadding(child.rules)) : content;
      return {
        base: 0,
        inner: 0,
        min,
        max: Math.max(min, max),
        grow: height?.kind === 'fill' ? height.weight : 1,
        shrink: 1,
      };
    }
    const base = own ?? this.place(child, width).height;
    return { base, inner: base, min: base, max: base, grow: 0, shrink: 0 };
  }

  #rowItem(child: Part, inner: number, wraps: boolean): FlexItem {
    const width = ruleOf(child.rules, 'width');
    const floor = horizontalPadding(child.rules);
    const least = this.#intrinsic.minWidth(child);
    // In a wrap a min in px never asks for more than the whole line.
    const own =
      wraps && typeof child.rules.minWidth === 'number' ? Math.min(child.rules.minWidth, inner) : least;
    const limit = (auto: number) => Math.max(floor, own ?? auto);
    const max = child.rules.maxWidth ?? Infinity;
    const plain = width.kind === 'fill' ? undefined : this.#plainWidth(child, width, inner);
    if (plain !== undefined) {
      const min = limit(0);
      return { base: Math.max(plain, floor), inner: 0, min, max: Math.max(min, max), grow: 0, shrink: 0 };
    }
    if (width.kind === 'fill') {
      const min = limit(0);
      return { base: floor, inner: 0, min, max: Math.max(min, max), grow: width.weight, shrink: 1 };
    }
    const content = this.#intrinsic.content(child);
    const min = limit(Math.min(content.min, max));
    return {
      base: content.max,
      inner: Math.max(0, content.max - floor),
      min,
      max: Math.max(min, max),
      grow: 0,
      shrink: 1,
    };
  }

  #rows(part: Part, width: number, height: number | undefined, wraps: boolean): Box {
    const { rules } = part;
    const inner = Math.max(0, width - horizontalPadding(rules));
    const innerHeight = height === undefined ? undefined : Math.max(0, height - verticalPadding(rules));
    const children = inFlow(part);
    const space = spacing(part, children);
    const items = children.map((c) => this.#rowItem(c, inner, wraps));
    const lines = wraps ? breakIntoLines(items, space, inner) : [children.map((_, i) => i)];
    const crossGap = rules.crossGap ?? space.gap;
    const placed: Placed[] = [];
    let y = rules.padding?.top ?? 0;
    let baseline: number | undefined;
    for (const [n, line] of lines.entries()) {
      if (n > 0) y += crossGap;
      const lineGaps = line.map((i, k) => (space.margins[i] ?? 0) + (k > 0 ? space.gap : 0));
      const room = inner - sum(lineGaps);
      const lineItems = line.map((i) => items[i]).filter((i) => i !== undefined);
      const widths = resolveFlexibleLengths(lineItems, room);
      const { start, between } = distribute(part, line.length, room - sum(widths));
      const parts = line.map((i) => children[i]).filter((c) => c !== undefined);
      const row = this.#line(part, parts, widths, innerHeight, wraps ? undefined : { height });
      let x = (rules.padding?.left ?? 0) + start;
      row.boxes.forEach((box, k) => {
        x += (lineGaps[k] ?? 0) + (k > 0 ? between : 0);
        placed.push({ box, x, y: y + (row.offsets[k] ?? 0) });
        x += widths[k] ?? 0;
      });
      if (n === 0 && row.baseline !== undefined) baseline = y + row.baseline;
      y += row.height;
    }
    const outer = this.#outerHeight(part, y - (rules.padding?.top ?? 0), height);
    return { part, width, height: outer, children: placed, ...(baseline !== undefined && { baseline }) };
  }

  /** Lays out one line of a row: heights, stretching, baselines (CSS Flexbox §9.4, §9.6). */
  #line(
    part: Part,
    children: readonly Part[],
    widths: readonly number[],
    innerHeight: number | undefined,
    single: { height: number | undefined } | undefined,
  ): { boxes: Box[]; offsets: number[]; height: number; baseline?: number } {
    const boxes = children.map((c, i) => {
      const w = widths[i] ?? 0;
      return this.place(c, w, this.#ownHeight(c, w, innerHeight));
    });
    const alignOf = (c: Part) => lineAlign(part, c);
    const based = boxes.filter((b) => alignOf(b.part) === 'baseline').map(ownBaseline);
    const ascent = based.length > 0 ? Math.max(...based) : 0;
    const extents = boxes.map((b) =>
      alignOf(b.part) === 'baseline' ? ascent - ownBaseline(b) + b.height : b.height,
    );
    let cross = Math.max(0, ...extents);
    if (single) cross = this.#outerHeight(part, cross, single.height) - verticalPadding(part.rules);
    const stretched = boxes.map((box) => {
      const { kind } = ruleOf(box.part.rules, 'height');
      const auto = kind === 'fill' || kind === 'fit';
      if (!auto || alignOf(box.part) !== 'stretch') return box;
      const height = this.#clampHeight(box.part, box.width, cross);
      return height === box.height ? box : this.place(box.part, box.width, height);
    });
    const offsets = stretched.map((box) => {
      const align = alignOf(box.part);
      return align === 'baseline' ? ascent - ownBaseline(box) : offset(align, cross - box.height);
    });
    const [lead] = stretched;
    const first = based.length > 0 ? ascent : lead && (offsets[0] ?? 0) + ownBaseline(lead);
    return { boxes: stretched, offsets, height: cross, ...(first !== undefined && { baseline: first }) };
  }

  #grid(part: Part, width: number, height: number | undefined): Box {
    const { rules } = part;
    const inner = Math.max(0, width - horizontalPadding(rules));
    const children = inFlow(part);
    const gap = typeof rules.gap === 'number' ? Math.max(0, rules.gap) : 0;
    const rowGap = rules.crossGap ?? gap;
    const columns = rules.columns ?? { kind: 'count', count: 1 };
    const count = columns.kind === 'count' ? columns.count : repeatCount(inner, columns, gap);
    const track = Math.max(0, (inner - gap * (count - 1)) / count);
    const placed: Placed[] = [];
    let y = rules.padding?.top ?? 0;
    for (let from = 0; from < children.length; from += count) {
      if (from > 0) y += rowGap;
      const row = children.slice(from, from + count);
      const widths = row.map((c) => this.#crossWidth(c, track, false));
      const line = this.#line(part, row, widths, undefined, undefined);
      line.boxes.forEach((box, k) => {
        const x = (rules.padding?.left ?? 0) + k * (track + gap);
        placed.push({ box, x, y: y + (line.offsets[k] ?? 0) });
      });
      y += line.height;
    }
    const first = placed[0];
    const baseline = first && first.y + ownBaseline(first.box);
    const outer = this.#outerHeight(part, y - (rules.padding?.top ?? 0), height);
    return { part, width, height: outer, children: placed, ...(baseline !== undefined && { baseline }) };
  }

  /** Places a pinned child in its parent's box (CSS Positioned Layout §4). */
  #pin(child: Part, parentWidth: number, parentHeight: number): Placed {
    const pin = child.rules.pin ?? {};
    const shift = pin.centreX ?? 0;
    const sides = pin.centreX === undefined ? (pin.left ?? 0) + (pin.right ?? 0) : 0;
    const available = Math.max(0, parentWidth - sides);
    const size = ruleOf(child.rules, 'width');
    const plain =
      size.kind === 'share' ? (parentWidth * size.percent) / 100 : this.#plainWidth(child, size, available);
    const width = this.#clampWidth(child, plain ?? this.#fitWidth(child, available));
    const tall = ruleOf(child.rules, 'height');
    const height =
      tall.kind === 'fill'
        ? this.#clampHeight(child, width, parentHeight - (pin.top ?? 0) - (pin.bottom ?? 0))
        : this.#ownHeight(child, width, parentHeight);
    const box = this.place(child, width, height);
    return {
      box,
      // Automatic margins never turn negative along the line (CSS 2.2 §10.3.7): what is too wide begins at the left.
      x:
        pin.centreX === undefined
          ? along(pin.left, pin.right, undefined, parentWidth, box.width)
          : Math.max(0, (parentWidth - box.width) / 2) + shift,
      y: along(pin.top, pin.bottom, pin.centreY, parentHeight, box.height),
    };
  }
}

const along = (
  near: number | undefined,
  far: number | undefined,
  centre: number | undefined,
  parent: number,
  own: number,
): number => {
  if (centre !== undefined) return (parent - own) / 2 + centre;
  if (near !== undefined) return near;
  return far === undefined ? 0 : parent - own - far;
};

/** Where an aligned box begins in the room across the flow; negative when it is larger. */
function offset(align: string, free: number): number {
  return align === 'centre' ? free / 2 : align === 'end' ? free : 0;
}

/** A box without a baseline of its own stands on its lower edge (CSS Alignment §9.3). */
const ownBaseline = (box: Box): number => box.baseline ?? box.height;

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
