import { staying, type Reflow } from '@tinfold/core/layout';
import { contains, pathTo, walk, type Part, type Rect } from '@tinfold/core/model';

/** The innermost part at a point; a later one lies on top, and what stays while the rest scrolls over all. */
export function partAt(root: Part, reflow: Reflow, x: number, y: number): string | undefined {
  const above = staying(root);
  let found: string | undefined;
  for (const { id } of walk(root)) {
    const box = reflow.parts.get(id);
    const covered = found !== undefined && above.has(found) && !above.has(id);
    if (box && !covered && contains(box, { x, y, width: 0, height: 0 }, 0)) found = id;
  }
  return found;
}

/**
 * The part that a click takes in hand: of those at the point, outermost first, the one inside of what is in hand, else the one that
 * stands beside it, else the first below the frame.
 */
export function nextInHand(root: Part, innermost: string, selected: string | undefined): string {
  const path = pathTo(root, innermost).map((p) => p.id);
  const hand = selected === undefined ? [root.id] : pathTo(root, selected).map((p) => p.id);
  const apart = path.findIndex((id, i) => hand[i] !== id);
  return path[apart < 0 ? path.length - 1 : apart] ?? innermost;
}

/** The parts that lie whole in a frame drawn round them, the outermost, in the order of the document. */
export function partsIn(root: Part, reflow: Reflow, frame: Rect): string[] {
  const found: string[] = [];
  const visit = (part: Part): void => {
    const box = reflow.parts.get(part.id);
    if (box && part !== root && contains(frame, box, 0)) found.push(part.id);
    else part.children.forEach(visit);
  };
  visit(root);
  return found;
}
