import { bottom, right, type Rect } from '../../model/index.js';

/** The floats of one block formatting context (CSS 2.2 §9.5), by their margin boxes. */
export class Floats {
  readonly #left: Rect[] = [];
  readonly #right: Rect[] = [];
  readonly #from: number;
  readonly #to: number;

  /** The context reaches from `from` to `to`, px. */
  constructor(from: number, to: number) {
    this.#from = from;
    this.#to = to;
  }

  add(side: 'left' | 'right', box: Rect): void {
    (side === 'left' ? this.#left : this.#right).push(box);
  }

  /** The room between floats at a height, within `left` and `right`. */
  band(y: number, left = this.#from, to = this.#to): { left: number; right: number } {
    const over = (b: Rect) => b.y <= y + 0.01 && bottom(b) > y + 0.01;
    return {
      left: Math.max(left, ...this.#left.filter(over).map(right)),
      right: Math.min(to, ...this.#right.filter(over).map((b) => b.x)),
    };
  }

  /** The highest place at or below `y` where a float of this width has room; a too wide one stands free of others. */
  place(
    side: 'left' | 'right',
    y: number,
    width: number,
    left: number,
    to: number,
  ): { x: number; y: number } {
    // A float never stands higher than one before it.
    let top = Math.max(y, ...[...this.#left, ...this.#right].map((b) => b.y));
    for (;;) {
      const band = this.band(top, left, to);
      const ends = [...this.#left, ...this.#right].map(bottom).filter((b) => b > top + 0.01);
      if (band.right - band.left >= width - 0.01 || ends.length === 0)
        return { x: side === 'left' ? band.left : band.right - width, y: top };
      top = Math.min(...ends);
    }
  }

  /** Where something that clears these floats may begin. */
  clear(side: 'left' | 'right' | 'both', y: number): number {
    const boxes = [...(side === 'right' ? [] : this.#left), ...(side === 'left' ? [] : this.#right)];
    return Math.max(y, ...boxes.map(bottom));
  }

  bottom(): number {
    return this.clear('both', -Infinity);
  }

  /** Where the last of the floats beside `y` ends; infinity where there is none. */
  bottomOf(y: number): number {
    const beside = [...this.#left, ...this.#right].filter((b) => b.y <= y + 0.01 && bottom(b) > y + 0.01);
    return beside.length === 0 ? Infinity : Math.max(...beside.map(bottom));
  }
}
