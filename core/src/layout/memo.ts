import type { Paragraph } from '../text/index.js';
import type { Box } from './box.js';
import type { FlexItem } from './flexibleLengths.js';

/** What a part looked like at so many constraints is kept: one reflow asks for a few of each, a drag for the last again. */
const KEPT = 8;

/**
 * What one engine knows of a part: its last layouts, by the width, and by the height unless its content decided it (the oldest
 * gives way), and what depends on no width.
 */
export class Memo {
  readonly owner: object;
  /** The part along a row, and along a wrap, of any width. */
  readonly items: [FlexItem | undefined, FlexItem | undefined] = [undefined, undefined];
  paragraph: Paragraph | undefined;
  /** From the top of a text to its first baseline, px. */
  baseline: number | undefined;
  readonly #widths: number[] = [];
  readonly #heights: (number | undefined)[] = [];
  readonly #boxes: Box[] = [];
  #next = 0;

  constructor(owner: object) {
    this.owner = owner;
  }

  find(width: number, height: number | undefined): Box | undefined {
    const widths = this.#widths;
    for (let i = 0; i < widths.length; i++)
      if (widths[i] === width && this.#heights[i] === height) return this.#boxes[i];
    return undefined;
  }

  keep(width: number, height: number | undefined, box: Box): void {
    this.#widths[this.#next] = width;
    this.#heights[this.#next] = height;
    this.#boxes[this.#next] = box;
    this.#next = (this.#next + 1) % KEPT;
  }
}
