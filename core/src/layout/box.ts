import type { Part } from '../model/index.js';
import type { Line } from '../text/index.js';

/** A laid-out part. It knows nothing of where it stands, so that it can be kept and used again. */
export interface Box {
  readonly part: Part;
  readonly width: number;
  readonly height: number;
  /** From the top of the box to its first baseline; undefined when nothing in it has one. */
  readonly baseline: number | undefined;
  readonly children: readonly Placed[];
  readonly lines: readonly Line[] | undefined;
}

/** A box at a place in its parent's box. */
export interface Placed {
  readonly box: Box;
  readonly x: number;
  readonly y: number;
}

/** A box without a baseline of its own stands on its lower edge (CSS Alignment §9.3). */
export const ownBaseline = (box: Box): number => box.baseline ?? box.height;

/** A container's box around its placed children. */
export const containerBox = (
  part: Part,
  width: number,
  height: number,
  children: readonly Placed[],
  baseline: number | undefined,
): Box => ({ part, width, height, children, baseline, lines: undefined });

/** Places seen from the other side: what stood from the left stands from the right. */
export const mirrorX = (placed: readonly Placed[], width: number): Placed[] =>
  placed.map(({ box, x, y }) => ({ box, x: width - x - box.width, y }));

/** Places seen from below. */
export const mirrorY = (placed: readonly Placed[], height: number): Placed[] =>
  placed.map(({ box, x, y }) => ({ box, x, y: height - y - box.height }));
