/** One colour stop of a gradient; `at` runs from 0 to 1. */
export interface GradientStop {
  readonly at: number;
  readonly colour: string;
}

/**
 * A fill: a CSS colour, a linear gradient with its CSS angle in degrees (0 is upwards, clockwise), or a radial one
 * whose middle and radii are shares of the box (CSS Images 3 §3). Stops may lie beyond 0 and 1.
 * Colours are kept as CSS text that the reader has normalised (`#rrggbb` or `rgba()`).
 */
export type Fill =
  | { readonly kind: 'solid'; readonly colour: string }
  | { readonly kind: 'linear'; readonly angle: number; readonly stops: readonly GradientStop[] }
  | {
      readonly kind: 'radial';
      readonly cx: number;
      readonly cy: number;
      readonly rx: number;
      readonly ry: number;
      readonly stops: readonly GradientStop[];
    };

/** How a part's colours mix with what lies under it (Compositing 1 §10). */
export const BLENDS = [
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'hue',
  'saturation',
  'color',
  'luminosity',
] as const;
export type Blend = (typeof BLENDS)[number];

/** A drop shadow; it never takes room in the layout. */
export interface Shadow {
  readonly dx: number;
  readonly dy: number;
  readonly blur: number;
  readonly colour: string;
}

/** The radii of the corners of a box, px, in the order of CSS: top left, top right, bottom right, bottom left. */
export type CornerRadii = readonly [number, number, number, number];

/** What a part shows apart from its content. A stroke lies inside the box and takes no room. */
export interface Paint {
  readonly fill?: Fill;
  readonly stroke?: { readonly colour: string; readonly width: number; readonly dashed?: boolean };
  /** Corner radius in px, one for each corner where they differ, or 'round' for an ellipse. */
  readonly radius?: number | CornerRadii | 'round';
  readonly opacity?: number;
  readonly shadow?: Shadow;
  /** The radius of a blur over the whole part, CSS px; it takes no room. */
  readonly blur?: number;
  readonly blend?: Blend;
}

/** A type style. `lineHeight` and `letterSpacing` are px. */
export interface TextStyle {
  readonly family: string;
  readonly size: number;
  readonly weight: number;
  readonly italic: boolean;
  readonly letterSpacing: number;
  readonly colour: string;
  /**
   * By how much a font that stands in for a missing one is enlarged so that the drawn words keep their drawn width
   * (as CSS Fonts 5 `size-adjust`). Without meaning where the font itself is there.
   */
  readonly sizeAdjust?: number;
}

/**
 * A word, or the space between two, that is kept as it was drawn because its font is not here: its outlines and its
 * advance in px at the type size that it was drawn with.
 */
export interface DrawnWord {
  readonly width: number;
  readonly size: number;
  /** Path data from the word's start on the baseline, downwards; empty for a space. */
  readonly d: string;
  readonly rule?: 'evenodd';
}

/** How wide a drawn word is at a type size, px. */
export const drawnWidth = ({ width, size }: DrawnWord, at: number): number => (width * at) / size;

/** A stretch of text in one style. */
export interface TextRun {
  readonly text: string;
  readonly style: TextStyle;
  /** Set where the run is one drawn word; its text says as much of it as is known, see {@link UNREAD}. */
  readonly drawn?: DrawnWord;
}

/** A glyph whose meaning nobody has said yet: one character of the private use area for each shape (Unicode §23.5). */
export const UNREAD = /[\uE000-\uF8FF]/u;

/** One paragraph. */
export interface TextContent {
  readonly kind: 'text';
  readonly runs: readonly TextRun[];
  readonly lineHeight: number;
  readonly align: 'start' | 'centre' | 'end';
}

/** A bitmap or a drawn picture by data URI; without `href` it is a placeholder. */
export interface PictureContent {
  readonly kind: 'picture';
  readonly href?: string;
  readonly natural?: { readonly width: number; readonly height: number };
  readonly fit: 'cover' | 'contain' | 'fill';
}

/** One outline of vector art, its coordinates in the art's view box. */
export interface ArtPath {
  readonly d: string;
  readonly fill?: string;
  readonly fillRule?: 'evenodd';
  readonly stroke?: string;
  readonly strokeWidth?: number;
  readonly cap?: 'round' | 'square';
  readonly join?: 'round' | 'bevel';
  readonly opacity?: number;
}

/** Vector art: an icon or an illustration. `view` is its own coordinate box and scales to the part's box. */
export interface ArtContent {
  readonly kind: 'art';
  readonly view: readonly [number, number, number, number];
  readonly paths: readonly ArtPath[];
}

/**
 * A line of words that stands at an angle, in degrees clockwise. It does not flow: `width` × `height` is the upright
 * line's size, which is turned about the middle of the part's box.
 */
export interface TurnedContent {
  readonly kind: 'turned';
  readonly angle: number;
  readonly width: number;
  readonly height: number;
  readonly text: TextContent;
}

export type Content = TextContent | PictureContent | ArtContent | TurnedContent;

/** The words of a paragraph without their styles. */
export const plainText = (content: TextContent): string => content.runs.map((r) => r.text).join('');

/** The size of a text's first words, px; undefined for what holds none. */
export const wordSize = (content: Content | undefined): number | undefined =>
  content?.kind === 'text' ? content.runs[0]?.style.size : undefined;

/** The words of a paragraph that can be read; none where one of them was only drawn. */
export function readableText(content: TextContent): string {
  const text = plainText(content);
  return UNREAD.test(text) ? '' : text;
}
