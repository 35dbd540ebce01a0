import { bottom, walk, type Part, type Rect } from '../model/index.js';
import type { Reflow } from './reflow.js';

/** What of a frame is seen: so many px of it, from so far down. */
export interface Seen {
  readonly height: number;
  readonly from: number;
}

const known = new WeakMap<Part, ReadonlySet<string>>();

/** The parts that stay while the rest scrolls, with all that is in them: they lie over the rest. */
export function staying(root: Part): ReadonlySet<string> {
  const before = known.get(root);
  if (before) return before;
  const found = new Set<string>();
  known.set(root, found);
  for (const part of walk(root)) if (part.rules.stay) for (const { id } of walk(part)) found.add(id);
  return found;
}

/** How far down a part is moved so that it stays, px; upwards below zero. It never leaves the container around it. */
function shiftOf({ rules: { stay } }: Part, box: Rect, outer: Rect, { height, from }: Seen): number {
  if (!stay) return 0;
  if (stay.side === 'top') return Math.max(0, Math.min(from + stay.at - box.y, bottom(outer) - bottom(box)));
  return Math.min(0, Math.max(from + height - stay.at - bottom(box), outer.y - box.y));
}

/**
 * A reflow as it is seen when the frame is scrolled: what stays is moved into sight (CSS Positioned Layout 3 §6.3). Boxes are still
 * px from the frame's own top left corner. Parts that scroll by themselves are taken as not scrolled.
 */
export function scrolled(root: Part, reflow: Reflow, seen: Seen): Reflow {
  const parts = new Map(reflow.parts);
  const visit = (part: Part, outer: Rect | undefined, by: number): void => {
    const box = reflow.parts.get(part.id);
    if (!box) return;
    const here = by === 0 ? box : { ...box, y: box.y + by };
    const own = by + (outer ? shiftOf(part, here, outer, seen) : 0);
    const now = own === 0 ? box : { ...box, y: box.y + own };
    if (now !== box) parts.set(part.id, now);
    const { top = 0, bottom: low = 0 } = part.rules.padding ?? {};
    const inner = { ...now, y: now.y + top, height: now.height - top - low };
    for (const child of part.children) visit(child, inner, own);
  };
  visit(root, undefined, 0);
  return { ...reflow, parts };
}
