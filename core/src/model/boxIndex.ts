import Flatbush from 'flatbush';
import { bottom, right, type Rect } from './geometry.js';

/** Finds boxes by place without looking at all of them. */
export class BoxIndex {
  readonly #tree: Flatbush | undefined;

  constructor(boxes: readonly Rect[]) {
    if (boxes.length === 0) return;
    this.#tree = new Flatbush(boxes.length);
    for (const b of boxes) this.#tree.add(b.x, b.y, right(b), bottom(b));
    this.#tree.finish();
  }

  /** The indices of the boxes that meet `box`, touching ones included, in order. */
  meeting(box: Rect): number[] {
    return this.#tree?.search(box.x, box.y, right(box), bottom(box)).sort((a, b) => a - b) ?? [];
  }
}
