import { bottom, FILL, FIT, type Rect, type Rules } from '../model/index.js';
import type { Builder } from './build.js';
import { tabPlaces } from './evenTabs.js';
import { linesOf } from './lines.js';
import { isText, type Node } from './node.js';
import type { Seat } from './seat.js';

/** Columns of words are not set narrower than this, px. */
export const WORDS_MIN = 120;

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
  const { rows, crossGap } = linesOf(children, b);
  const places = tabPlaces(rows, box, b.tolerance);
  if (!places) return undefined;
  const { left, rest, width, step } = places;
  const gap = b.px(step - width);
  const top = Math.min(...children.map((c) => c.box.y));
  const end = Math.max(...children.map((c) => bottom(c.box)));
  const rules: Rules = {
    flow: 'grid',
    columns: {
      kind: 'repeat',
      min: Math.ceil(Math.max(WORDS_MIN, ...children.map((c) => c.box.width))),
      most: rows[0]?.length ?? 1,
    },
    gap,
    ...(rows.length > 1 && crossGap !== gap && { crossGap }),
    padding: {
      top: b.px(Math.max(0, top - box.y)),
      right: b.px(rest),
      bottom: b.px(Math.max(0, bottom(box) - end)),
      left: b.px(left),
    },
  };
  const seats = rows.flatMap((row) => {
    const level = Math.min(...row.map((n) => n.box.y));
    return row.map((node, i): Seat => {
      const inset = node.box.y - level > b.tolerance.same ? { inset: { top: node.box.y - level } } : {};
      return {
        node,
        box: { ...node.box, x: box.x + left + i * step, width },
        rules: { width: FILL, height: FIT },
        textAlign: 'centre',
        ...inset,
      };
    });
  });
  return { rules, seats };
}
