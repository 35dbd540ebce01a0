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

/**
 * Space between consecutive children: px (may be negative), what is left, shared out as in CSS `justify-content`, or
 * equal distances from middle to middle.
 */
export type Gap = number | 'between' | 'around' | 'evenly' | 'centres';

/** Where lines of a wrap or tracks of a grid stand in room that they do not fill (CSS `align-content`). */
export type Distribution = 'start' | 'centre' | 'end' | 'stretch' | 'between' | 'around' | 'evenly';

export type Align = 'start' | 'centre' | 'end' | 'stretch' | 'baseline';
export type Justify = 'start' | 'centre' | 'end';

/** Inner distances in px, in the order of CSS `padding`. */
export interface Edges {
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
  readonly left: number;
}

export type Side = 'top' | 'right' | 'bottom' | 'left';

/**
 * Where a child out of the flow hangs, in px from the edges of its parent's box; `centreX` and `centreY` are the
 * offsets of its middle from the parent's middle. A share is percent of the parent's size and adds to the edge's
 * distance. Two opposite edges stretch a `fill` size between them. `z` orders what lies over each other.
 */
export interface Pin {
  readonly left?: number;
  readonly right?: number;
  readonly top?: number;
  readonly bottom?: number;
  readonly leftShare?: number;
  readonly rightShare?: number;
  readonly topShare?: number;
  readonly bottomShare?: number;
  readonly centreX?: number;
  readonly centreY?: number;
  readonly z?: number;
}

/**
 * A part in the flow that stays in sight while the rest scrolls, as long as its container does: never nearer than `at` px to this
 * side of what scrolls (CSS Positioned Layout 3 §6.3, `position: sticky`).
 */
export interface Stay {
  readonly side: 'top' | 'bottom';
  readonly at: number;
}

/**
 * A row or column of a grid (CSS Grid §7.2).
 * - `fixed`: px.
 * - `fr`: a share of what is left, never under `min` (0 where it says nothing).
 * - `fit`: as large as its content, giving way down to the least that it needs.
 * - `range`: px or content at least, px or content at most.
 */
export type Track =
  | { readonly kind: 'fixed'; readonly px: number }
  | { readonly kind: 'fr'; readonly weight: number; readonly min?: Limit }
  | { readonly kind: 'fit' }
  | { readonly kind: 'range'; readonly min: Limit; readonly max: Limit };

/**
 * The columns of a grid: equal shares that repeat as often as columns of at least `min` px fit, at the most `most`
 * (CSS `repeat(auto-fill, minmax(min, 1fr))`), a fixed number of equal shares, or each as it says.
 */
export type Columns =
  | { readonly kind: 'repeat'; readonly min: number; readonly most?: number }
  | { readonly kind: 'count'; readonly count: number }
  | { readonly kind: 'tracks'; readonly tracks: readonly Track[] };

/** A child's place in a grid: lines are counted from 1; what is left out is placed automatically, spanning 1. */
export interface Cell {
  readonly column?: number;
  readonly row?: number;
  readonly columnSpan?: number;
  readonly rowSpan?: number;
  /** A named area, which says all four. */
  readonly area?: string;
}

/** The layout rules of a part. Absent rules have the value in {@link DEFAULT_RULES}. */
export interface Rules {
  readonly flow?: Flow;
  readonly width?: Size;
  readonly height?: Size;
  readonly minWidth?: Limit;
  readonly maxWidth?: Limit;
  readonly minHeight?: Limit;
  readonly maxHeight?: Limit;
  readonly gap?: Gap;
  readonly crossGap?: number;
  readonly gapBefore?: number;
  readonly padding?: Edges;
  readonly align?: Align;
  readonly alignSelf?: Align;
  readonly justify?: Justify;
  /** Children stand from the end to the start. */
  readonly reverse?: boolean;
  /** A child's rank among its siblings: lower ones come first (CSS `order`). */
  readonly order?: number;
  /** A wrap's child that begins a line whatever room is left. */
  readonly newLine?: boolean;
  /** The first child lies over the later ones; usually the last is on top. */
  readonly firstOnTop?: boolean;
  /** Which children give way when a row or column has no room: those that do so first, and those that never do. */
  readonly givesWay?: 'first' | 'never';
  /** The lines of a wrap, or the rows of a grid, in room that they do not fill. */
  readonly alignLines?: Distribution;
  readonly columns?: Columns;
  readonly rows?: readonly Track[];
  /** Rows beyond those named; as high as their content where it says nothing. */
  readonly autoRows?: Track;
  readonly autoFlow?: 'row' | 'column';
  /** Rows of area names, `.` for none. */
  readonly areas?: readonly (readonly string[])[];
  /** A grid's columns in room that they do not fill. */
  readonly justifyTracks?: Distribution;
  /** Across its column, how a grid's children stand. */
  readonly justifyItems?: Justify;
  readonly justifySelf?: Justify;
  readonly cell?: Cell;
  readonly pin?: Pin;
  /** Where it stays while the rest scrolls. */
  readonly stay?: Stay;
  readonly hidden?: boolean;
  /** What reaches beyond the edges is not shown. */
  readonly clip?: boolean;
  /** What does not fit is reached by scrolling, so that the part may be smaller than its content. */
  readonly scroll?: boolean;
  /** The stroke adds to the padding instead of lying over the edge. */
  readonly strokeTakesRoom?: boolean;
  /** The sides on which the padding is at least the device's inset. */
  readonly safeArea?: readonly Side[];
  /** Which way lines run, for the part and all in it. */
  readonly direction?: 'ltr' | 'rtl';
  /** A text shows so many lines at the most; the rest is cut with an ellipsis. */
  readonly maxLines?: number;
}

export type RuleName = keyof Rules;

/** Rules to set; `null` takes a rule away so that its default holds. */
export type RuleChange = { readonly [K in RuleName]?: Rules[K] | null };

/** The names of the rules that two say otherwise. */
export function changedRules(before: RuleChange, after: RuleChange): RuleName[] {
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])] as RuleName[];
  return names.filter((n) => JSON.stringify(before[n]) !== JSON.stringify(after[n]));
}

/** The rules with some set and some taken away. */
export function withChange(rules: Rules, set: RuleChange): Rules {
  const entries: [string, unknown][] = Object.entries({ ...rules, ...set });
  return Object.fromEntries(entries.filter(([, value]) => value !== null && value !== undefined));
}

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

/** The rules by which a container lays what it holds; a leaf has none of them. */
export const LAYING_RULES = [
  'flow',
  'gap',
  'crossGap',
  'align',
  'justify',
  'columns',
  'rows',
  'autoRows',
  'autoFlow',
  'areas',
  'alignLines',
  'justifyTracks',
  'justifyItems',
  'reverse',
] as const satisfies readonly (keyof Rules)[];
