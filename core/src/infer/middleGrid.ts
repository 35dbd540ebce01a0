import type { Rect, Rules } from '../model/index.js';
import type { Builder } from './build.js';
import { tabPlaces } from './evenTabs.js';
import { linesOf } from './lines.js';
import { isText, type Node } from './node.js';
import { repeated } from './repeated.js';
import type { Seat } from './seat.js';

/**
 * Columns with their words in the middle, in one line or several: what tells them is that their middles stand at even steps. They
 * repeat as often as there is room for them. Undefined for other things.
 */
export function middleGrid(
  children: readonly Node[],
  box: Rect,
  b: Builder,
): { rules: Rules; seats: Seat[] } | undefined {
  const isWords = (c: Node): boolean => c.flow === 'column' && c.children.filter(isText).length > 1;
  if (!children.every(isWords)) return undefined;
  const lines = linesOf(children, b);
  const places = tabPlaces(lines.rows, box, b.tolerance);
  if (!places) return undefined;
  const { rules, seats } = repeated(lines, places, Math.max(...children.map((c) => c.box.width)), box, b);
  return { rules, seats: seats.map((s) => ({ ...s, textAlign: 'centre' })) };
}
