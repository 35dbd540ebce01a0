import type { Part, Rect } from '../../model/index.js';
import type { Boxes } from '../standingPart.js';

/** The largest shift of a child, px, that may pass as a snap. */
export const MAX_SNAP = 1.5;
/** The largest difference of a size, px, that may pass as a snap: both edges may be rounded. */
export const MAX_RESIZE = 2 * MAX_SNAP;

/** A child of a container with the box that it was drawn in and the one it gets, both from the container's own corner. */
export interface Standing {
  readonly child: Part;
  readonly meant: Rect;
  readonly box: Rect;
}

const from = (box: Rect, corner: Rect): Rect => ({ ...box, x: box.x - corner.x, y: box.y - corner.y });

/** The children of a container as they were meant and as they stand; those that are not shown are left out. */
export function standingIn(part: Part, boxes: Boxes, targets: Boxes): readonly Standing[] {
  const [own, drawn] = [boxes.get(part.id), targets.get(part.id)];
  if (!own || !drawn) return [];
  return part.children.flatMap((child) => {
    const [box, meant] = [boxes.get(child.id), targets.get(child.id)];
    return box && meant ? [{ child, meant: from(meant, drawn), box: from(box, own) }] : [];
  });
}

/** Those that stand in the flow. */
export const flowingOf = (standing: readonly Standing[]): Standing[] =>
  standing.filter(({ child }) => !child.rules.pin);

/** Whether a child stands off its drawn place, or has another size, by more than may be called a snap. */
export const isMisplaced = ({ meant, box }: Standing): boolean =>
  Math.abs(box.x - meant.x) > MAX_SNAP ||
  Math.abs(box.y - meant.y) > MAX_SNAP ||
  Math.abs(box.width - meant.width) > MAX_RESIZE ||
  Math.abs(box.height - meant.height) > MAX_RESIZE;

/** Whether a container misplaces a child. */
export const misplaces = (part: Part, boxes: Boxes, targets: Boxes): boolean =>
  part.kind === 'container' && standingIn(part, boxes, targets).some(isMisplaced);
