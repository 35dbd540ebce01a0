import type { Paragraph } from '../text/index.js';
import type { Box } from './box.js';
import type { FlexItem } from './flexibleLengths.js';

/**
 * What one engine knows of a part: its last three layouts, by the width, and by the height unless its content decided it (the
 * oldest gives way), and what depends on no width. One reflow asks for one or two layouts of a part, and a drag for the last
 * again. They are fields, not lists: a sweep over thousands of parts spends its time in fetching what it looks at.
 */
export class Memo {
  readonly owner: object;
  /** The part along a row, and along a wrap, of any width. */
  inRow: FlexItem | undefined;
  inWrap: FlexItem | undefined;
  /** Its children along its lines, in frames of most widths. */
  items: readonly FlexItem[] | undefined;
  paragraph: Paragraph | undefined;
  /** From the top of a text to its first baseline, px. */
  baseline: number | undefined;
  #width0 = NaN;
  #width1 = NaN;
  #width2 = NaN;
  #height0: number | undefined;
  #height1: number | undefined;
  #height2: number | undefined;
  #box0: Box | undefined;
  #box1: Box | undefined;
  #box2: Box | undefined;

  constructor(owner: object) {
    this.owner = owner;
  }

  find(width: number, height: number | undefined): Box | undefined {
    if (this.#width0 === width && this.#height0 === height) return this.#box0;
    if (this.#width1 === width && this.#height1 === height) return this.#box1;
    return this.#width2 === width && this.#height2 === height ? this.#box2 : undefined;
  }

  keep(width: number, height: number | undefined, box: Box): void {
    this.#width2 = this.#width1;
    this.#height2 = this.#height1;
    this.#box2 = this.#box1;
    this.#width1 = this.#width0;
    this.#height1 = this.#height0;
    this.#box1 = this.#box0;
    this.#width0 = width;
    this.#height0 = height;
    this.#box0 = box;
  }
}
