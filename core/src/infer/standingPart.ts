import { inFlow } from '../layout/index.js';
import { NO_PADDING, type Part, type Rect } from '../model/index.js';
import { endOf, startOf, type Axis } from './stack.js';

/** The boxes of parts where they stand, by their ids. */
export type Boxes = ReadonlyMap<string, Rect>;

/** The box of a part without its padding. */
export function innerBox(part: Part, box: Rect): Rect {
  const p = part.rules.padding ?? NO_PADDING;
  return {
    x: box.x + p.left,
    y: box.y + p.top,
    width: box.width - p.left - p.right,
    height: box.height - p.top - p.bottom,
  };
}

/** The spaces between consecutive children where they stand, those that begin a new line left out. */
export function gapsAlong(part: Part, boxes: Boxes, axis: Axis): number[] {
  const placed = inFlow(part).flatMap((c) => boxes.get(c.id) ?? []);
  return placed.slice(1).flatMap((box, i) => {
    const before = placed[i] as Rect;
    const gap = startOf(box, axis) - endOf(before, axis);
    return startOf(box, axis) > startOf(before, axis) ? [gap] : [];
  });
}
