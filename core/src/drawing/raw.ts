import type { ArtPath } from '../model/index.js';
import type { CleanUpKind } from './cleanUp.js';
import type { Foreign } from './foreign.js';
import type { ArtItem, Note, Outlined, PictureItem, ShapeItem } from './items.js';
import type { Curve } from './outlined/contours.js';
import type { Chunk } from './svgText.js';

/** A paragraph whose lines are not measured yet. */
export interface RawText {
  readonly kind: 'text';
  readonly leftOut?: CleanUpKind;
  readonly id: string;
  readonly groups: readonly string[];
  readonly chunks: readonly Chunk[];
  /** The distance of its lines where the file says it, px. */
  readonly lineHeight?: number;
  /** By how much the text is turned, degrees clockwise; its chunks are placed as if turned back about the origin. */
  readonly angle?: number;
  /** Set where its words were outlines. */
  readonly outlined?: Outlined;
}

/** A drawn shape with its outline at hand, so that pieces of an icon can still be joined. */
export interface RawShape {
  readonly kind: 'shape' | 'art';
  readonly leftOut?: CleanUpKind;
  /** The id of the icon that this is a piece of. */
  readonly icon?: string;
  readonly named: boolean;
  readonly item: ShapeItem | ArtItem;
  readonly art: ArtPath;
  /** Its outline as curves, line by line, where the file has it. */
  readonly lines?: readonly (readonly Curve[])[];
}

/** A picture; `leftOut` says why an item is not to be shown. */
export interface RawPicture {
  readonly kind: 'picture';
  readonly leftOut?: CleanUpKind;
  readonly named: boolean;
  readonly item: PictureItem;
}

export type RawItem = RawText | RawShape | RawPicture;

/** What a file says before text is measured. */
export interface RawDrawing {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly items: readonly RawItem[];
  readonly notes: readonly Note[];
  /** HTML within the drawing, by the name of the empty shape that stands for it until it is laid out. */
  readonly foreign?: ReadonlyMap<string, Foreign>;
}
