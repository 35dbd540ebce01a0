import { bottom, right, type Rect } from '../../model/index.js';

/** The floats of one side in the order they were placed, in which none stands higher than one before it. */
class Side {
  readonly #boxes: Rect[] = [];
  /** How far down the floats up to each one reach. */
  readonly #reach: number[] = [];

  add(box: Rect): void {
    this.#boxes.push(box);
    this.#reach.push(Math.max(this.bottom(), bottom(box)));
  }

  top(): number {
    return this.#boxes.at(-1)?.y ?? -Infinity;
  }

  bottom(): number {
    return this.#reach.at(-1) ?? -Infinity;
  }

  /** The floats that end below `y`, last placed first; a page of many floats asks this for each of them. */
  *endingBelow(y: number): Generator<Rect> {
    for (let i = this.#boxes.length - 1; i >= 0 && (this.#reach[i] ?? 0) > y + 0.01; i--) {
      const box = this.#boxes[i];
      if (box && bottom(box) > y + 0.01) yield box;
    }
  }

  *beside(y: number): Generator<Rect> {
    for (const box of this.endingBelow(y)) if (box.y <= y + 0.01) yield box;
  }
}

/** The floats of one block formatting context (CSS 2.2 §9.5), by their margin boxes. */
export class Floats {
  readonly #left = new Side();
  readonly #right = new Side();
  readonly #from: number;
  readonly #to: number;

  /** The context reaches from `from` to `to`, px. */
  constructor(from: number, to: number) {
    this.#from = from;
    this.#to = to;
  }

  add(side: 'left' | 'right', box: Rect): void {
    (side === 'left' ? this.#left : this.#right).add(box);
  }

  /** The room between floats at a height, within `left` and `right`. */
  band(y: number, left = this.#from, to = this.#to): { left: number; right: number } {
    const band = { left, right: to };
    for (const box of this.#left.beside(y)) band.left = Math.max(band.left, right(box));
    for (const box of this.#right.beside(y)) band.right = Math.min(band.right, box.x);
    return band;
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
    let top = Math.max(y, this.#left.top(), this.#right.top());
    for (;;) {
      const band = this.band(top, left, to);
      let next = Infinity;
      for (const one of [this.#left, this.#right])
        for (const box of one.endingBelow(top)) next = Math.min(next, bottom(box));
      if (band.right - band.left >= width - 0.01 || next === Infinity)
        return { x: side === 'left' ? band.left : band.right - width, y: top };
      top = next;
    }
  }

  /** Where something that clears these floats may begin. */
  clear(side: 'left' | 'right' | 'both', y: number): number {
    const left = side === 'right' ? -Infinity : this.#left.bottom();
    const other = side === 'left' ? -Infinity : this.#right.bottom();
    return Math.max(y, left, other);
  }

  bottom(): number {
    return this.clear('both', -Infinity);
  }

  /** Where the last of the floats beside `y` ends; infinity where there is none. */
  bottomOf(y: number): number {
    let last = -Infinity;
    for (const one of [this.#left, this.#right])
      for (const box of one.beside(y)) last = Math.max(last, bottom(box));
    return last === -Infinity ? Infinity : last;
  }
}
