import { ruleOf, type Part } from '../model/index.js';
import { maxContentWidth, minContentWidth, type TextMeasurer } from '../text/index.js';
import { clampSize, gapsBefore, horizontalPadding, inFlow } from './sizing.js';

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

  constructor(measurer: TextMeasurer) {
    this.#measurer = measurer;
  }

  /** What the part contributes to its parent: its own size where it has one, within its limits. */
  contribution(part: Part): Intrinsic {
    const known = this.#known.get(part);
    if (known) return known;
    const { rules } = part;
    const floor = horizontalPadding(rules);
    const { width, height } = rules;
    let own: Intrinsic;
    if (width?.kind === 'fixed') own = { min: width.px, max: width.px };
    else if (width?.kind === 'ratio' && height?.kind === 'fixed') {
      const px = (height.px * width.width) / width.height;
      own = { min: px, max: px };
    } else own = this.content(part);
    const minWidth = this.minWidth(part);
    const result = {
      min: clampSize(own.min, minWidth, rules.maxWidth, floor),
      max: clampSize(own.max, minWidth, rules.maxWidth, floor),
    };
    this.#known.set(part, result);
    return result;
  }

  /** The part's min width in px, `content` resolved. */
  minWidth(part: Part): number | undefined {
    const { minWidth } = part.rules;
    return minWidth === 'content' ? this.content(part).min : minWidth;
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
    const padding = horizontalPadding(part.rules);
    if (part.content?.kind === 'text')
      return {
        min: minContentWidth(part.content, this.#measurer) + padding,
        max: maxContentWidth(part.content, this.#measurer) + padding,
      };
    const children = inFlow(part);
    if (part.kind !== 'container' || children.length === 0) return { min: padding, max: padding };
    const parts = children.map((c) => this.contribution(c));
    const mins = parts.map((p) => p.min);
    const maxs = parts.map((p) => p.max);
    switch (ruleOf(part.rules, 'flow')) {
      case 'column':
        return { min: most(mins) + padding, max: most(maxs) + padding };
      case 'row': {
        const gaps = sum(gapsBefore(part, children));
        return { min: Math.max(0, sum(mins) + gaps) + padding, max: Math.max(0, sum(maxs) + gaps) + padding };
      }
      case 'wrap': {
        const gaps = sum(gapsBefore(part, children));
        return { min: most(mins) + padding, max: Math.max(0, sum(maxs) + gaps) + padding };
      }
      case 'grid':
        return this.#grid(part, mins, maxs, padding);
      case 'free':
        return { min: padding, max: padding };
    }
  }

  #grid(part: Part, mins: readonly number[], maxs: readonly number[], padding: number): Intrinsic {
    const { columns } = part.rules;
    const gap = typeof part.rules.gap === 'number' ? part.rules.gap : 0;
    // Without a definite width a repeat gives one column (CSS Grid §7.2.3.2).
    if (!columns || columns.kind === 'repeat')
      return { min: most(mins) + padding, max: Math.max(columns?.min ?? 0, most(maxs)) + padding };
    const gaps = gap * (columns.count - 1);
    return {
      min: gaps + padding,
      max: most(maxs) * columns.count + gaps + padding,
    };
  }
}
