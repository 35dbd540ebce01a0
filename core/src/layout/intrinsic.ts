import { ruleOf, type Part, type TextContent } from '../model/index.js';
import { maxContentWidth, minContentWidth, type TextMeasurer } from '../text/index.js';
import { gridContent } from './grid.js';
import { byCentres, inSegments } from './rewrite.js';
import { factsOf } from './facts.js';
import { clampSize } from './sizing.js';

/** The smallest and the largest width that a part's content asks for, outer px (CSS Sizing 3 §5). */
export interface Intrinsic {
  readonly min: number;
  readonly max: number;
}

const sum = (numbers: readonly number[]): number => numbers.reduce((s, n) => s + n, 0);
const most = (numbers: readonly number[]): number => numbers.reduce((s, n) => Math.max(s, n), 0);

/** Computes intrinsic widths and keeps them: they depend on the part alone. */
export class IntrinsicWidths {
  readonly #measurer: TextMeasurer;
  readonly #known = new WeakMap<Part, Intrinsic>();
  readonly #content = new WeakMap<Part, Intrinsic>();
  readonly #unlimited = new WeakMap<Part, Part>();
  readonly #lines = new WeakMap<TextContent, TextContent>();

  constructor(measurer: TextMeasurer) {
    this.#measurer = measurer;
  }

  /** What the part contributes to its parent: its own size where it has one, within its limits. */
  contribution(part: Part): Intrinsic {
    const known = this.#known.get(part);
    if (known) return known;
    const { rules } = part;
    const floor = factsOf(part).horizontal;
    const { width, height } = rules;
    let own: Intrinsic;
    if (width?.kind === 'fixed') own = { min: width.px, max: width.px };
    else if (width?.kind === 'ratio' && height?.kind === 'fixed') {
      const px = (height.px * width.width) / width.height;
      own = { min: px, max: px };
    } else own = this.content(part);
    const limits = this.limits(part);
    const result = {
      min: clampSize(own.min, limits.min, limits.max, floor),
      max: clampSize(own.max, limits.min, limits.max, floor),
    };
    this.#known.set(part, result);
    return result;
  }

  /** A min of px in a wrap is capped by the line, which makes it count nothing here (CSS Sizing 3 §5.2.1). */
  #inWrap(part: Part): Intrinsic {
    const { minWidth, ...rules } = part.rules;
    if (typeof minWidth !== 'number') return this.contribution(part);
    let free = this.#unlimited.get(part);
    if (!free) this.#unlimited.set(part, (free = { ...part, rules }));
    return this.contribution(free);
  }

  /** The part's min and max width in px, `content` resolved. */
  limits(part: Part): { min: number | undefined; max: number | undefined } {
    const { minWidth, maxWidth } = part.rules;
    return {
      min: minWidth === 'content' ? this.content(part).min : minWidth,
      max: maxWidth === 'content' ? this.content(part).max : maxWidth,
    };
  }

  /** A text without its forced breaks, as one line shows it. */
  oneLine(content: TextContent): TextContent {
    if (!content.runs.some((r) => r.text.includes('\n'))) return content;
    let line = this.#lines.get(content);
    if (!line) {
      line = { ...content, runs: content.runs.map((r) => ({ ...r, text: r.text.replaceAll('\n', ' ') })) };
      this.#lines.set(content, line);
    }
    return line;
  }

  /** What the content alone asks for, padding included, limits not. */
  content(part: Part): Intrinsic {
    const known = this.#content.get(part);
    if (known) return known;
    const result = this.#measure(part);
    this.#content.set(part, result);
    return result;
  }

  #measure(part: Part): Intrinsic {
    const { children, margins, space, horizontal: padding } = factsOf(part);
    if (part.content?.kind === 'text') {
      const one = part.rules.maxLines === 1;
      const words = one ? this.oneLine(part.content) : part.content;
      const max = maxContentWidth(words, this.#measurer) + padding;
      return { min: one ? max : minContentWidth(words, this.#measurer) + padding, max };
    }
    const { height } = part.rules;
    if (height?.kind === 'ratio' && part.kind !== 'container') return this.#ratio(part, height, padding);
    const other = byCentres(part) ?? inSegments(part);
    if (other) return this.content(other);
    const isGrid = ruleOf(part.rules, 'flow') === 'grid';
    if (part.kind !== 'container' || (children.length === 0 && !isGrid))
      return { min: padding, max: padding };
    const wraps = ruleOf(part.rules, 'flow') === 'wrap';
    const parts = children.map((c) => (wraps ? this.#inWrap(c) : this.contribution(c)));
    const mins = parts.map((p) => p.min);
    const maxs = parts.map((p) => p.max);
    switch (ruleOf(part.rules, 'flow')) {
      case 'column':
        return { min: most(mins) + padding, max: most(maxs) + padding };
      case 'row': {
        return {
          min: Math.max(0, sum(mins) + space) + padding,
          max: Math.max(0, sum(maxs) + space) + padding,
        };
      }
      case 'wrap': {
        const min = most(mins.map((m, i) => m + (margins[i] ?? 0)));
        return { min: min + padding, max: Math.max(min, sum(maxs) + space, 0) + padding };
      }
      case 'grid': {
        const { min, max } = gridContent(part, (c) => this.contribution(c));
        return { min: min + padding, max: max + padding };
      }
      case 'free':
        return { min: padding, max: padding };
    }
  }

  /** Limits of the height go over to the width that follows from it (CSS Sizing 4 §5.1). */
  #ratio(part: Part, ratio: { width: number; height: number }, padding: number): Intrinsic {
    const edges = factsOf(part).vertical;
    const { minHeight, maxHeight } = part.rules;
    const across = (px: number) => (px * ratio.width) / ratio.height;
    const least = across(Math.max(typeof minHeight === 'number' ? minHeight : 0, edges));
    const px = Math.max(
      padding,
      Math.min(
        Math.max(padding, least),
        typeof maxHeight === 'number' ? Math.max(least, across(maxHeight)) : Infinity,
      ),
    );
    return { min: px, max: px };
  }
}
