import { bottom, FILL, FIT, type Rect, type Rules } from '../model/index.js';
import type { Builder } from './build.js';
import type { Lines } from './lines.js';
import { near } from './node.js';
import type { Seat } from './seat.js';

/** Columns of words are not set narrower than this, px. */
const WORDS_MIN = 120;

/** Where columns stand in a box, px: the first and the last so far from its sides, one every `step`, each `width` wide. */
export interface Places {
  readonly left: number;
  readonly rest: number;
  readonly width: number;
  readonly step: number;
}

/** Columns at some places that repeat as often as there is room for their words, which take `least` px. */
export function repeated(
  { rows, crossGap }: Lines,
  { left, rest, width, step }: Places,
  least: number,
  box: Rect,
  b: Builder,
): { rules: Rules; seats: Seat[] } {
  const children = rows.flat();
  const gap = b.px(step - width);
  const [first = box.y] = children.map((c) => c.box.y);
  const highest = Math.min(...children.map((c) => c.box.y));
  const top = near(first, highest, b.tolerance.same) ? first : highest;
  const end = Math.max(...children.map((c) => bottom(c.box)));
  const rules: Rules = {
    flow: 'grid',
    columns: { kind: 'repeat', min: Math.ceil(Math.max(WORDS_MIN, least)), most: rows[0]?.length ?? 1 },
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
      // An icon's strokes begin below the top of its box.
      const lower = node.box.y - level;
      return {
        node,
        box: { ...node.box, x: box.x + left + i * step, width },
        rules: { width: FILL, height: FIT },
        ...(lower > b.tolerance.same && { inset: { top: lower } }),
      };
    });
  });
  return { rules, seats };
}
