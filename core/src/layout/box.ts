import type { Part } from '../model/index.js';
import type { Line } from '../text/index.js';

/** A laid-out part. It knows nothing of where it stands, so that it can be kept and used again. */
export interface Box {
  readonly part: Part;
  readonly width: number;
  readonly height: number;
  /** From the top of the box to its first baseline; absent when nothing in it has one. */
  readonly baseline?: number;
  readonly children: readonly Placed[];
  readonly lines?: readonly Line[];
}

/** A box at a place in its parent's box. */
export interface Placed {
  readonly box: Box;
  readonly x: number;
  readonly y: number;
}
