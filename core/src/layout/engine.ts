import type { Part, TextContent } from '../model/index.js';
import { firstBaseline, linesHeight, paragraphOf, type TextMeasurer } from '../text/index.js';
import { containerBox, type Box, type Placed } from './box.js';
import { layoutColumn } from './column.js';
import { layoutGrid } from './grid.js';
import { IntrinsicWidths } from './intrinsic.js';
import { placePin } from './pin.js';
import { layoutRows } from './row.js';
import { factsOf, type Facts } from './facts.js';
import { Memo } from './memo.js';
import { byCentres, flattened, inSegments, restored } from './rewrite.js';
import { clampSize, isScroller, strokeRoom } from './sizing.js';

const NONE: readonly Placed[] = [];

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
    const facts = factsOf(root);
    const own = this.clampWidth(facts, width);
    const tall =
      facts.height.kind === 'fill' && height !== undefined
        ? this.clampHeight(facts, own, height)
        : this.ownHeight(facts, own, height);
    return this.place(facts, own, tall);
  }

  /** What this engine keeps of a part. */
  memoOf(facts: Facts): Memo {
    const { memo } = facts;
    return memo?.owner === this ? memo : (facts.memo = new Memo(this));
  }

  /** Lays a part out at a width; without a height it is as high as its content, within its limits. */
  place(facts: Facts, width: number, height?: number): Box {
    const memo = this.memoOf(facts);
    const before = memo.find(width, height);
    if (before) return before;
    const box = this.#grown(facts, width, height) ?? scrolled(this.#layout(facts, memo, width, height));
    memo.keep(width, height, box);
    return box;
  }

  /** A part that is merely higher than its content, where nothing in it stands otherwise for that. */
  #grown(facts: Facts, width: number, height: number | undefined): Box | undefined {
    if (height === undefined || !facts.growsDown) return undefined;
    const open = this.place(facts, width);
    if (height < open.height) return undefined;
    const { part, children, baseline, lines } = open;
    return { part, width, height, children, baseline, lines };
  }

  #layout(facts: Facts, memo: Memo, width: number, height: number | undefined): Box {
    const { part } = facts;
    if (facts.text) return this.#text(facts, facts.text, memo, width, height);
    if (part.kind !== 'container')
      return {
        part,
        width,
        height: height ?? this.#limitedHeight(facts, 0),
        children: NONE,
        baseline: undefined,
        lines: undefined,
      };
    const flowed = this.#flow(facts, width, height);
    const { pins } = facts;
    if (pins.length === 0) return flowed;
    const placed = new Map(pins.map((p) => [p, placePin(this, part, p, flowed.width, flowed.height)]));
    const inside = new Map(flowed.children.map((c) => [c.box.part, c]));
    const children = part.children.map((c) => placed.get(c) ?? inside.get(c)).filter((c) => c !== undefined);
    return { ...flowed, children };
  }

  #text(facts: Facts, content: TextContent, memo: Memo, width: number, height: number | undefined): Box {
    const { part, maxLines } = facts;
    const room = maxLines === 1 ? Infinity : width - facts.horizontal;
    let { broken } = memo;
    if (!broken || room < broken.from || room >= broken.to) {
      const words = maxLines === 1 ? this.#intrinsic.oneLine(content) : content;
      broken = memo.broken = (memo.paragraph ??= paragraphOf(words, this.#measurer)).breakAt(room);
    }
    const { lines } = broken;
    const shown = maxLines === undefined || lines.length <= maxLines ? lines : lines.slice(0, maxLines);
    const own = this.#limitedHeight(facts, linesHeight(shown.length, content));
    memo.baseline ??= firstBaseline(content, this.#measurer) + facts.top;
    return { part, width, height: height ?? own, children: NONE, lines: shown, baseline: memo.baseline };
  }

  /** The outer height of a part whose content is so high. */
  #limitedHeight(facts: Facts, content: number): number {
    const edges = facts.vertical;
    const own = content + edges;
    if (!facts.limitsHeight) return Math.max(edges, own);
    const { minHeight, maxHeight } = facts.part.rules;
    return clampSize(
      own,
      minHeight === 'content' ? own : minHeight,
      maxHeight === 'content' ? own : maxHeight,
      edges,
    );
  }

  #flow(facts: Facts, width: number, height: number | undefined): Box {
    const { part } = facts;
    if (facts.isRewritten) {
      const centred = byCentres(part);
      if (centred) return restored(part, layoutGrid(this, factsOf(centred), width, height));
      const segments = inSegments(part);
      if (segments) return flattened(part, layoutColumn(this, factsOf(segments), width, height));
    }
    switch (facts.flow) {
      case 'column':
        return layoutColumn(this, facts, width, height);
      case 'row':
        return layoutRows(this, facts, width, height, false);
      case 'wrap':
        return layoutRows(this, facts, width, height, true);
      case 'grid':
        return layoutGrid(this, facts, width, height);
      case 'free':
        return containerBox(part, width, this.outerHeight(facts, 0, height), [], undefined);
    }
  }

  /** The outer height of a container: the one given, else its content's within the limits. */
  outerHeight(facts: Facts, content: number, height: number | undefined): number {
    return height ?? this.#limitedHeight(facts, content);
  }

  clampWidth(facts: Facts, width: number): number {
    if (!facts.limitsWidth) return Math.max(facts.horizontal, width);
    const { min, max } = this.#intrinsic.limits(facts.part);
    return clampSize(width, min, max, facts.horizontal);
  }

  /** The width of a part that is as wide as its content where there is room (CSS Sizing 3 §5.1 fit-content). */
  fitWidth(facts: Facts, available: number): number {
    const { min, max } = this.#intrinsic.content(facts.part);
    return Math.min(max, Math.max(min, available));
  }

  /** The width of a size that does not depend on its siblings; `stretched` is what makes a `fit` fill. */
  crossWidth(facts: Facts, inner: number, stretched: boolean): number {
    return this.clampWidth(
      facts,
      this.plainWidth(facts, inner) ?? (stretched ? inner : this.fitWidth(facts, inner)),
    );
  }

  /** The width that a size rule says by itself; undefined where content or siblings decide. */
  plainWidth({ width, height }: Facts, inner: number): number | undefined {
    if (width.kind === 'fill') return inner;
    if (width.kind === 'fixed') return width.px;
    if (width.kind === 'share') return (inner * width.percent) / 100;
    if (width.kind === 'ratio' && height.kind === 'fixed') return (height.px * width.width) / width.height;
    return undefined;
  }

  /** The height that a part's own rule fixes at this width; undefined when its content decides. */
  ownHeight(facts: Facts, width: number, inner: number | undefined): number | undefined {
    const { height } = facts;
    if (height.kind === 'fit' || height.kind === 'fill') return undefined;
    let px: number | undefined;
    if (height.kind === 'fixed') px = height.px;
    else if (height.kind === 'ratio') px = (width * height.height) / height.width;
    else if (inner !== undefined) px = (inner * height.percent) / 100;
    return px === undefined ? undefined : this.clampHeight(facts, width, px);
  }

  clampHeight(facts: Facts, width: number, px: number): number {
    if (!facts.limitsHeight) return Math.max(facts.vertical, px);
    const limit = (value: number | 'content' | undefined) =>
      value === 'content' ? this.place(facts, width).height : value;
    const { minHeight, maxHeight } = facts.part.rules;
    return clampSize(px, limit(minHeight), limit(maxHeight), facts.vertical);
  }

  /** The box that pins of a container hang on: inside a stroke that takes room. */
  pinRoom(parent: Part, width: number, height: number): { edge: number; width: number; height: number } {
    const edge = strokeRoom(parent);
    return { edge, width: width - 2 * edge, height: height - 2 * edge };
  }
}
