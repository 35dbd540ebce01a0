import { ruleOf, type Part, type Size } from '../model/index.js';
import { breakLines, firstBaseline, type TextMeasurer } from '../text/index.js';
import { containerBox, type Box, type Placed } from './box.js';
import { layoutColumn } from './column.js';
import { layoutGrid } from './grid.js';
import { IntrinsicWidths } from './intrinsic.js';
import { placePin } from './pin.js';
import { layoutRows } from './row.js';
import { byCentres, flattened, inSegments, restored } from './rewrite.js';
import type { FlexItem } from './flexibleLengths.js';
import { factsOf } from './facts.js';
import { clampSize, isScroller, strokeRoom, topEdge } from './sizing.js';

/** What a part looked like at so many constraints is kept: one reflow asks for a few of each, a drag for the last again. */
const KEPT = 8;

const NONE: readonly Placed[] = [];

/** A part's last layouts, by the width, and by the height unless its content decided it; the oldest gives way. */
class Layouts {
  readonly #widths: number[] = [];
  readonly #heights: (number | undefined)[] = [];
  readonly #boxes: Box[] = [];
  #next = 0;

  find(width: number, height: number | undefined): Box | undefined {
    for (let i = 0; i < this.#widths.length; i++)
      if (this.#widths[i] === width && this.#heights[i] === height) return this.#boxes[i];
    return undefined;
  }

  keep(width: number, height: number | undefined, box: Box): void {
    this.#widths[this.#next] = width;
    this.#heights[this.#next] = height;
    this.#boxes[this.#next] = box;
    this.#next = (this.#next + 1) % KEPT;
  }
}

/** What is scrolled has its baseline within its edges (CSS Alignment §9.1). */
const scrolled = (box: Box): Box =>
  box.baseline === undefined || !isScroller(box.part)
    ? box
    : { ...box, baseline: Math.max(0, Math.min(box.baseline, box.height)) };

/**
 * Lays parts out as a browser lays out the CSS that the rules compile to (see `handoff/css.ts`, which writes that
 * CSS). One engine keeps what it has laid out by part and constraint, so that an edit or another width costs only
 * what really changes. Widths and heights are outer px. Parts must stand as they are at the frame's width: see
 * {@link standing}.
 */
export class Engine {
  readonly #measurer: TextMeasurer;
  readonly #intrinsic: IntrinsicWidths;
  readonly #boxes = new WeakMap<Part, Layouts>();
  /** Children along lines that are the same in a row, and in a wrap, of any width. */
  readonly items = [new WeakMap<Part, FlexItem>(), new WeakMap<Part, FlexItem>()] as const;

  constructor(measurer: TextMeasurer) {
    this.#measurer = measurer;
    this.#intrinsic = new IntrinsicWidths(measurer);
  }

  /** The widths that a part's content asks for. */
  get intrinsic(): IntrinsicWidths {
    return this.#intrinsic;
  }

  /**
   * Lays the frame out: its own height and limits hold, the width comes from outside, and a frame that fills is as
   * high as `height` where that is known.
   */
  frame(root: Part, width: number, height?: number): Box {
    const own = this.clampWidth(root, width);
    const tall =
      ruleOf(root.rules, 'height').kind === 'fill' && height !== undefined
        ? this.clampHeight(root, own, height)
        : this.ownHeight(root, own, height);
    return this.place(root, own, tall);
  }

  /** Lays a part out at a width; without a height it is as high as its content, within its limits. */
  place(part: Part, width: number, height?: number): Box {
    let known = this.#boxes.get(part);
    if (!known) this.#boxes.set(part, (known = new Layouts()));
    const before = known.find(width, height);
    if (before) return before;
    const box = this.#grown(part, width, height) ?? scrolled(this.#layout(part, width, height));
    known.keep(width, height, box);
    return box;
  }

  /** A part that is merely higher than its content, where nothing in it stands otherwise for that. */
  #grown(part: Part, width: number, height: number | undefined): Box | undefined {
    if (height === undefined || !factsOf(part).growsDown) return undefined;
    const open = this.place(part, width);
    if (height < open.height) return undefined;
    const { children, baseline, lines } = open;
    return { part, width, height, children, baseline, lines };
  }

  #layout(part: Part, width: number, height: number | undefined): Box {
    if (part.content?.kind === 'text') return this.#text(part, width, height);
    if (part.kind !== 'container')
      return {
        part,
        width,
        height: height ?? this.#limitedHeight(part, 0),
        children: NONE,
        baseline: undefined,
        lines: undefined,
      };
    const flowed = this.#flow(part, width, height);
    const { pins } = factsOf(part);
    if (pins.length === 0) return flowed;
    const placed = new Map(pins.map((p) => [p, placePin(this, part, p, flowed.width, flowed.height)]));
    const inside = new Map(flowed.children.map((c) => [c.box.part, c]));
    const children = part.children.map((c) => placed.get(c) ?? inside.get(c)).filter((c) => c !== undefined);
    return { ...flowed, children };
  }

  #text(part: Part, width: number, height: number | undefined): Box {
    const { content } = part;
    if (content?.kind !== 'text') throw new TypeError(`The part ${part.id} has no text.`);
    const { maxLines } = part.rules;
    const words = maxLines === 1 ? this.#intrinsic.oneLine(content) : content;
    const inner = maxLines === 1 ? Infinity : width - factsOf(part).horizontal;
    const lines = breakLines(words, inner, this.#measurer);
    const shown = maxLines === undefined ? lines : lines.slice(0, maxLines);
    const own = this.#limitedHeight(part, shown.length * content.lineHeight);
    const baseline = firstBaseline(content, this.#measurer) + topEdge(part);
    return { part, width, height: height ?? own, children: NONE, lines: shown, baseline };
  }

  /** The outer height of a part whose content is so high. */
  #limitedHeight(part: Part, content: number): number {
    const { minHeight, maxHeight } = part.rules;
    const edges = factsOf(part).vertical;
    const own = content + edges;
    return clampSize(
      own,
      minHeight === 'content' ? own : minHeight,
      maxHeight === 'content' ? own : maxHeight,
      edges,
    );
  }

  #flow(part: Part, width: number, height: number | undefined): Box {
    const centred = byCentres(part);
    if (centred) return restored(part, layoutGrid(this, centred, width, height));
    switch (ruleOf(part.rules, 'flow')) {
      case 'column':
        return layoutColumn(this, part, width, height);
      case 'row':
        return layoutRows(this, part, width, height, false);
      case 'wrap': {
        const segments = inSegments(part);
        if (segments) return flattened(part, layoutColumn(this, segments, width, height));
        return layoutRows(this, part, width, height, true);
      }
      case 'grid':
        return layoutGrid(this, part, width, height);
      case 'free':
        return containerBox(part, width, this.outerHeight(part, 0, height), [], undefined);
    }
  }

  /** The outer height of a container: the one given, else its content's within the limits. */
  outerHeight(part: Part, content: number, height: number | undefined): number {
    return height ?? this.#limitedHeight(part, content);
  }

  clampWidth(part: Part, width: number): number {
    const { minWidth, maxWidth } = part.rules;
    if (minWidth === undefined && maxWidth === undefined) return Math.max(factsOf(part).horizontal, width);
    const { min, max } = this.#intrinsic.limits(part);
    return clampSize(width, min, max, factsOf(part).horizontal);
  }

  /** The width of a part that is as wide as its content where there is room (CSS Sizing 3 §5.1 fit-content). */
  fitWidth(part: Part, available: number): number {
    const { min, max } = this.#intrinsic.content(part);
    return Math.min(max, Math.max(min, available));
  }

  /** The width of a size that does not depend on its siblings; `stretched` is what makes a `fit` fill. */
  crossWidth(part: Part, inner: number, stretched: boolean): number {
    const width = ruleOf(part.rules, 'width');
    return this.clampWidth(
      part,
      this.plainWidth(part, width, inner) ?? (stretched ? inner : this.fitWidth(part, inner)),
    );
  }

  /** The width that a size rule says by itself; undefined where content or siblings decide. */
  plainWidth(part: Part, width: Size, inner: number): number | undefined {
    if (width.kind === 'fixed') return width.px;
    if (width.kind === 'fill') return inner;
    if (width.kind === 'share') return (inner * width.percent) / 100;
    if (width.kind === 'ratio' && part.rules.height?.kind === 'fixed')
      return (part.rules.height.px * width.width) / width.height;
    return undefined;
  }

  /** The height that a part's own rule fixes at this width; undefined when its content decides. */
  ownHeight(part: Part, width: number, inner: number | undefined): number | undefined {
    const height = ruleOf(part.rules, 'height');
    let px: number | undefined;
    if (height.kind === 'fixed') px = height.px;
    else if (height.kind === 'ratio') px = (width * height.height) / height.width;
    else if (height.kind === 'share' && inner !== undefined) px = (inner * height.percent) / 100;
    if (px === undefined) return undefined;
    return this.clampHeight(part, width, px);
  }

  clampHeight(part: Part, width: number, px: number): number {
    if (part.rules.minHeight === undefined && part.rules.maxHeight === undefined)
      return Math.max(factsOf(part).vertical, px);
    const limit = (value: number | 'content' | undefined) =>
      value === 'content' ? this.place(part, width).height : value;
    const { minHeight, maxHeight } = part.rules;
    return clampSize(px, limit(minHeight), limit(maxHeight), factsOf(part).vertical);
  }

  /** The box that pins of a container hang on: inside a stroke that takes room. */
  pinRoom(parent: Part, width: number, height: number): { edge: number; width: number; height: number } {
    const edge = strokeRoom(parent);
    return { edge, width: width - 2 * edge, height: height - 2 * edge };
  }
}
