import type { Drawing } from '../drawing/index.js';
import { overlap, union, type Rect } from '../model/index.js';
import { itemsBelow, type Elsewhere, type Node } from './node.js';

export const placesIn = (drawing: Drawing): Elsewhere =>
  new Map(drawing.items.map((item) => [item.id, item.box]));

/** What reaches over another thing by more than this does not stand beside it, px. */
const REACHES = 2;

/** The box around what is below a node in another drawing; none where nothing of it is there. */
function hullIn(node: Node, places: Elsewhere): Rect | undefined {
  const boxes = [...itemsBelow(node)].flatMap(({ id }) => places.get(id) ?? []);
  return boxes.length > 0 ? union(boxes) : undefined;
}

/** Whether nodes that stand apart here are mixed with each other in another drawing: nothing keeps them apart there. */
export function isMixedIn(nodes: readonly Node[], places: Elsewhere): boolean {
  const hulls = nodes.flatMap((node) => hullIn(node, places) ?? []).sort((a, b) => a.y - b.y);
  return hulls.some((hull, i) =>
    hulls.slice(i + 1).some((next) => {
      const [across, down] = overlap(hull, next);
      return across > REACHES && down > REACHES;
    }),
  );
}
