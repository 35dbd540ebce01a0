/** How a container places its children. Compiles to CSS `display` and `flex-flow`. */
export type Flow = 'column' | 'row' | 'wrap' | 'grid' | 'free';

/**
 * A size on one axis.
 * - `fixed`: px, never gives way.
 * - `fit`: as large as the content; may give way down to its minimal content.
 * - `fill`: takes what room is left, shared by weight.
 * - `share`: percent of the parent's inner size.
 * - `ratio`: follows the other axis, `width : height`.
 */
export type Size =
  | { readonly kind: 'fixed'; readonly px: number }
  | { readonly kind: 'fit' }
  | { readonly kind: 'fill'; readonly weight: number }
  | { readonly kind: 'share'; readonly percent: number }
  | { readonly kind: 'ratio'; readonly width: number; readonly height: number };

/** A lower or upper limit: px, or what the content needs at least. */
export type Limit = number | 'content';

/** Space between consecutive children: px (may be negative) or what is left, shared out as in CSS `justify-content`. */
export type Gap = number | 'between' | 'around' | 'evenly';

export type Align = 'start' | 'centre' | 'end' | 'stretch' | 'baseline';
export type Justify = 'start' | 'centre' | 'end';

/** Inner distances in px, in the order of CSS `padding`. */
export interface Edges {
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
  readonly left: number;
}

/**
 * Where a child out of the flow hangs, in px from the edges of its parent's box; `centreX` and `centreY` are the
 * offsets of its middle from the parent's middle. Two opposite edges stretch a `fill` size between them.
 */
export interface Pin {
  readonly left?: number;
  readonly right?: number;
  readonly top?: number;
  readonly bottom?: number;
  readonly centreX?: number;
  readonly centreY?: number;
}

/**
 * The columns of a grid: equal shares that repeat as often as columns of at least `min` px fit, at the most `most`
 * (CSS `repeat(auto-fill, minmax(min, 1fr))`), or a fixed number of equal shares.
 */
export type Columns =
  | { readonly kind: 'repeat'; readonly min: number; readonly most?: number }
  | { readonly kind: 'count'; readonly count: number };

/** The layout rules of a part. Absent rules have the value in {@link DEFAULT_RULES}. */
export interface Rules {
  readonly flow?: Flow;
  readonly width?: Size;
  readonly height?: Size;
  readonly minWidth?: Limit;
  readonly maxWidth?: number;
  readonly minHeight?: Limit;
  readonly maxHeight?: number;
  readonly gap?: Gap;
  readonly crossGap?: number;
  readonly gapBefore?: number;
  readonly padding?: Edges;
  readonly align?: Align;
  readonly alignSelf?: Align;
  readonly justify?: Justify;
  readonly columns?: Columns;
  readonly pin?: Pin;
  readonly hidden?: boolean;
  readonly clip?: boolean;
}

export type RuleName = keyof Rules;

export const NO_PADDING: Edges = { top: 0, right: 0, bottom: 0, left: 0 };
export const FIT: Size = { kind: 'fit' };
export const FILL: Size = { kind: 'fill', weight: 1 };
export const fixed = (px: number): Size => ({ kind: 'fixed', px });
export const pad = (top: number, right = top, bottom = top, left = right): Edges => ({
  top,
  right,
  bottom,
  left,
});

/** What holds where a part says nothing. */
export const DEFAULT_RULES = {
  flow: 'column',
  width: FIT,
  height: FIT,
  gap: 0,
  padding: NO_PADDING,
  align: 'start',
  justify: 'start',
} as const satisfies Rules;

/** The part's rule, or its default where it has one. */
export function ruleOf<K extends keyof typeof DEFAULT_RULES>(rules: Rules, name: K): NonNullable<Rules[K]> {
  return rules[name] ?? DEFAULT_RULES[name];
}

/** Whether the flow's main axis is horizontal. */
export const isHorizontal = (flow: Flow): boolean => flow === 'row' || flow === 'wrap';
