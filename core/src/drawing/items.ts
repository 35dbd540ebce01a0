import type { ArtContent, Paint, PictureContent, Rect, TextContent, TurnedContent } from '../model/index.js';
import type { CleanUpKind } from './cleanUp.js';
import type { SafeArea } from './device.js';

interface ItemBase {
  readonly id: string;
  /** The outer bounds as painted, strokes included, shadows not; for a text its layout box. */
  readonly box: Rect;
  /** Names of the groups that hold the item in the file, outermost first. */
  readonly groups: readonly string[];
  readonly paint: Paint;
  /** By how much it is turned in the drawing, degrees clockwise; `box` is around the turned item. */
  readonly angle?: number;
}

/** A rectangle, an ellipse or a straight upright or level line. */
export interface ShapeItem extends ItemBase {
  readonly kind: 'shape';
}

/** One paragraph. `lines` are the drawn lines, top to bottom. */
export interface TextItem extends ItemBase {
  readonly kind: 'text';
  readonly content: TextContent;
  /**
   * Set where its line height is only what its font says: a single line's drawing does not show it. `letters` is what its
   * font says that its letters take above and below the baseline, px.
   */
  readonly loneLine?: { readonly letters: number };
  /** Set where its words were outlines that a font's glyphs were found in. */
  readonly outlined?: Outlined;
  readonly lines: readonly { readonly x: number; readonly baseline: number; readonly width: number }[];
}

/** What a glyph was read as, and what another of the same shape says. */
export interface Doubt {
  readonly read: string;
  readonly or: string;
}

/** How words were read that were outlines. */
export interface Outlined {
  readonly glyphs: number;
  /** Letters that others of the same shape may stand for as well. */
  readonly doubtful: readonly Doubt[];
}

/** A bitmap, or a placeholder for one that could not be taken. */
export interface PictureItem extends ItemBase {
  readonly kind: 'picture';
  readonly content: PictureContent;
}

/** Vector art: one path, an icon put together from several, or a line of words at an angle. */
export interface ArtItem extends ItemBase {
  readonly kind: 'art';
  readonly content: ArtContent | TurnedContent;
}

export type Item = ShapeItem | TextItem | PictureItem | ArtItem;

/** Something about the import that the designer should know; `items` are the places it concerns. */
export interface Note {
  readonly kind: 'left out' | 'cleaned up' | 'fell back' | 'not understood';
  readonly text: string;
  readonly items: readonly string[];
  /** The clean-up that can be taken back. */
  readonly cleanUp?: CleanUpKind;
  /** Where items stand that are no longer in the drawing, one for each of `items`. */
  readonly places?: readonly Rect[];
}

/** A fixed-position picture of one screen. Items are in paint order: later ones lie on top. */
export interface Drawing {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  /** The paint of the frame itself, taken from a shape that covers it. */
  readonly background: Paint;
  /** Items that became the frame's background. */
  readonly backgroundIds: readonly string[];
  readonly items: readonly Item[];
  readonly notes: readonly Note[];
  /** The strips that the device covers, where its status bar or home mark were found. */
  readonly safeArea?: SafeArea;
}

/** A drawing that cannot be read; the message is a sentence that says what to do. */
export class DrawingError extends Error {
  override readonly name = 'DrawingError';
}

/**
 * By how much the top of a text whose letters stay where they are moves up when its lines become `height` px high. Browsers keep
 * whole px of what is left over above a line (CSS Inline 3 §5.1).
 */
export function riseOf({ content: { lineHeight }, loneLine }: TextItem, height: number): number {
  if (!loneLine) return (height - lineHeight) / 2;
  const above = (lines: number) => Math.floor((lines - loneLine.letters) / 2);
  return above(height) - above(lineHeight);
}
