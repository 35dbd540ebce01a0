import { riseOf, type Drawing, type Item } from '../drawing/index.js';
import { standingBoxes, type Engine } from '../layout/index.js';
import type { Rect, Structure } from '../model/index.js';

/** What a drawing on its grid may be off by, px. */
export const EXACT = 0.5;

/** The largest distance between like edges of two boxes, px. */
export const distance = (a: Rect, b: Rect): number =>
  Math.max(
    Math.abs(a.x - b.x),
    Math.abs(a.y - b.y),
    Math.abs(a.x + a.width - b.x - b.width),
    Math.abs(a.y + a.height - b.y - b.height),
  );

/** How far a box is from where an item was drawn, px; of words, how far their lines are, however high they are. */
function off(box: Rect, item: Item): number {
  if (item.kind !== 'text') return distance(box, item.box);
  const height = box.height / item.lines.length;
  const over = height - item.content.lineHeight;
  return distance({ ...box, y: box.y + riseOf(item, height), height: box.height - over }, item.box);
}

/** How far a drawn item stands from its place; Infinity for one that is not shown. */
export interface Deviation {
  /** The id of the drawing's item. */
  readonly item: string;
  readonly by: number;
}

/** How far each item stands from where it was drawn, largest edge distance in px, at the drawing's width. */
export function deviations(structure: Structure, drawing: Drawing, engine: Engine): Deviation[] {
  const placed = standingBoxes(structure, drawing.width, engine);
  return drawing.items.map((item) => {
    const box = placed.get(item.id);
    return { item: item.id, by: box ? off(box, item) : Infinity };
  });
}

/** Whether everything stands at some widths where it stood in another structure, but for what a drawing may be off by. */
export function standsAsBefore(
  before: Structure,
  after: Structure,
  engine: Engine,
  widths: readonly number[],
): boolean {
  return widths.every((width) => {
    const [was, is] = [standingBoxes(before, width, engine), standingBoxes(after, width, engine)];
    return [...was].every(([id, box]) => {
      const now = is.get(id);
      return now !== undefined && distance(box, now) <= EXACT;
    });
  });
}
