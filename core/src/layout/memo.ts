import type { Broken, Paragraph } from '../text/index.js';
import type { Box } from './box.js';
import type { FlexItem } from './flexibleLengths.js';

/** Not a height: none is negative. */
const OPEN = -1;

/**
 * What one engine knows of a part: its last three layouts, by the width, and by the height unless its content decided it (the
 * oldest gives way), and what depends on no width. One reflow asks for one or two layouts of a part, and a drag for the last
 * again. Their sizes stand in one list of numbers: a sweep over thousands of parts spends its time in fetching what it looks at.
 */
export class Memo {
  readonly owner: object;
  /** The part along a row, and along a wrap, of any width. */
  inRow: FlexItem | undefined;
  inWrap: FlexItem | undefined;
  /** Its children along its lines, in frames of most widths. */
  items: readonly FlexItem[] | undefined;
  paragraph: Paragraph | undefined;
  /** How its words broke last. */
  broken: Broken | undefined;
  /** From the top of a text to its first baseline, px. */
  baseline: number | undefined;
  /** Width and height of each of the three; {@link OPEN} stands for a height that the content decided. */
  readonly #asked = [NaN, OPEN, NaN, OPEN, NaN, OPEN];
  #box0: Box | undefined;
  #box1: Box | undefined;
  #box2: Box | undefined;

  constructor(owner: object) {
    this.owner = owner;
  }

  find(width: number, height: number = OPEN): Box | undefined {
    const asked = this.#asked;
    if (asked[0] === width && asked[1] === height) return this.#box0;
    if (asked[2] === width && asked[3] === height) return this.#box1;
    return asked[4] === width && asked[5] === height ? this.#box2 : undefined;
  }

  keep(width: number, height: number = OPEN, box: Box): void {
    const asked = this.#asked;
    asked[4] = asked[2] as number;
    asked[5] = asked[3] as number;
    asked[2] = asked[0] as number;
    asked[3] = asked[1] as number;
    asked[0] = width;
    asked[1] = height;
    this.#box2 = this.#box1;
    this.#box1 = this.#box0;
    this.#box0 = box;
  }
}
