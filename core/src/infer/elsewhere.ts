import type { Drawing } from '../drawing/index.js';
import { BoxIndex, covers, union, type Rect } from '../model/index.js';
import type { Elsewhere, Node } from './node.js';

/** What reaches over another thing by more than this does not stand beside it, px. */
const REACHES = 2;

/** Where the items of a screen stand in another drawing of it. */
export class OtherDrawing implements Elsewhere {
  readonly #boxes: ReadonlyMap<string, Rect>;
  /** The boxes around what is below nodes: one node is tried in many stacks. */
  readonly #hulls = new WeakMap<Node, Rect | 'not there'>();

  /** Its items are called as in the drawing that is read (see `alignDrawings`). */
  constructor({ items }: Drawing) {
    this.#boxes = new Map(items.map((item) => [item.id, item.box]));
  }

  areMixed(nodes: readonly Node[]): boolean {
    const hulls = nodes.map((n) => this.#hull(n)).filter((h) => h !== 'not there');
    const index = new BoxIndex(hulls);
    return hulls.some((hull, i) =>
      index.meeting(hull).some((k) => k > i && covers(hull, hulls[k] as Rect, REACHES)),
    );
  }

  #hull(node: Node): Rect | 'not there' {
    let hull = this.#hulls.get(node);
    if (!hull) {
      const own = node.item && this.#boxes.get(node.item.id);
      const inside = [...node.children, ...node.pins].map((n) => this.#hull(n));
      const boxes = [...(own ? [own] : []), ...inside.filter((h) => h !== 'not there')];
      hull = boxes.length > 0 ? union(boxes) : 'not there';
      this.#hulls.set(node, hull);
    }
    return hull;
  }
}
