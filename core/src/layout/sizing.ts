import { ruleOf, type Align, type Part, type Rules } from '../model/index.js';

/** The children that take part in the flow. */
export const inFlow = (part: Part): Part[] => part.children.filter((c) => !c.rules.pin && !c.rules.hidden);

export const pinned = (part: Part): Part[] =>
  part.children.filter((c) => c.rules.pin !== undefined && !c.rules.hidden);

export const horizontalPadding = (rules: Rules): number =>
  (rules.padding?.left ?? 0) + (rules.padding?.right ?? 0);
export const verticalPadding = (rules: Rules): number =>
  (rules.padding?.top ?? 0) + (rules.padding?.bottom ?? 0);

/** `value` within min and max; as in CSS the min wins over the max and nothing is below the padding. */
export function clampSize(
  value: number,
  min: number | undefined,
  max: number | undefined,
  floor: number,
): number {
  return Math.max(floor, min ?? 0, Math.min(value, max ?? Infinity));
}

/** How a child stands across its parent's flow: its own word, else the parent's. */
export const crossAlign = (parent: Part, child: Part): Align =>
  child.rules.alignSelf ?? ruleOf(parent.rules, 'align');

/** How a child stands across a line: one that fills the line is stretched, one that keeps a ratio is not. */
export function lineAlign(parent: Part, child: Part): Align {
  const { kind } = ruleOf(child.rules, 'height');
  const align = crossAlign(parent, child);
  if (kind === 'fill') return 'stretch';
  return kind === 'ratio' && align === 'stretch' ? 'start' : align;
}

/** The spaces along a flow: what stands between all children, and what each adds before itself. */
export interface Spacing {
  readonly gap: number;
  readonly margins: readonly number[];
}

/**
 * The spaces of a flow as CSS has them: a gap is never negative, so overlaps and odd gaps are margins of the later
 * child. A shared gap of words (`between` …) counts nothing here: it is what is left over.
 */
export function spacing(parent: Part, children: readonly Part[]): Spacing {
  const common = typeof parent.rules.gap === 'number' ? parent.rules.gap : 0;
  const gap = Math.max(0, common);
  return {
    gap,
    margins: children.map((child, i) => (i === 0 ? 0 : (child.rules.gapBefore ?? common) - gap)),
  };
}

/** All the space that a single line of children needs besides them. */
export const totalSpace = ({ gap, margins }: Spacing): number =>
  margins.reduce((s, m) => s + m, 0) + gap * Math.max(0, margins.length - 1);

/** What `justify` and shared gaps make of the room that is left: the offset of the first child and the added gap. */
export function distribute(parent: Part, count: number, free: number): { start: number; between: number } {
  const { gap } = parent.rules;
  if (typeof gap === 'string') {
    // Without room the shared spaces fall back to the start (CSS Alignment §5.3, safe centre).
    if (free <= 0) return { start: 0, between: 0 };
    if (gap === 'between') return { start: 0, between: count > 1 ? free / (count - 1) : 0 };
    if (gap === 'around') return { start: free / count / 2, between: free / count };
    return { start: free / (count + 1), between: free / (count + 1) };
  }
  const justify = ruleOf(parent.rules, 'justify');
  return { start: justify === 'centre' ? free / 2 : justify === 'end' ? free : 0, between: 0 };
}

/** The number of columns of at least `min` px, and at the most `most`, that fit into `inner` px (CSS Grid §7.2.3.2). */
export function repeatCount(
  inner: number,
  { min, most }: { min: number; most?: number },
  gap: number,
): number {
  const least = most === undefined ? min : Math.max(min, (inner - gap * (most - 1)) / most);
  const track = Math.min(Math.max(least, 1), Math.max(inner, 1));
  return Math.max(1, Math.floor((inner + gap + 1e-6) / (track + gap)));
}
