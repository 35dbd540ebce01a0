import type { Reflow } from '@tinfold/core/layout';
import { bottom, findPart, parentOf, right, type Part, type Rect } from '@tinfold/core/model';

/** How far a part is from something at one side. */
export interface Distance {
  readonly side: 'left' | 'right' | 'top' | 'bottom';
  readonly px: number;
  /** What is there, by its name. */
  readonly to: string;
  /** The line between both, px of the frame. */
  readonly line: readonly [x1: number, y1: number, x2: number, y2: number];
}

/** What stands beside a part: a box, and the part that has it. */
interface Neighbour {
  readonly box: Rect;
  readonly name: string;
}

const overlap = (a0: number, a1: number, b0: number, b1: number): number =>
  Math.min(a1, b1) - Math.max(a0, b0);

/** The nearest at one side among boxes that lie level with a box. */
function nearest(box: Rect, others: readonly Neighbour[], side: Distance['side']): Neighbour | undefined {
  const isLevel = side === 'left' || side === 'right';
  const gap = (o: Rect): number =>
    side === 'left'
      ? box.x - right(o)
      : side === 'right'
        ? o.x - right(box)
        : side === 'top'
          ? box.y - bottom(o)
          : o.y - bottom(box);
  let found: Neighbour | undefined;
  for (const other of others) {
    const shared = isLevel
      ? overlap(box.y, bottom(box), other.box.y, bottom(other.box))
      : overlap(box.x, right(box), other.box.x, right(other.box));
    if (shared > 0 && gap(other.box) >= 0 && (!found || gap(other.box) < gap(found.box))) found = other;
  }
  return found;
}

function between(box: Rect, side: Distance['side'], at: number, to: string): Distance {
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const edge = { left: box.x, right: right(box), top: box.y, bottom: bottom(box) }[side];
  const line =
    side === 'left' || side === 'right' ? ([edge, y, at, y] as const) : ([x, edge, x, at] as const);
  return { side, px: Math.abs(edge - at), to, line };
}

const SIDES = ['left', 'top', 'right', 'bottom'] as const;

/** How far a part is from its neighbours, or where none is from the edges of its container. */
function aroundIt(root: Part, reflow: Reflow, id: string, box: Rect): Distance[] {
  const parent = parentOf(root, id);
  const outer = reflow.parts.get(parent?.id ?? '');
  if (!parent || !outer) return [];
  const others = parent.children.flatMap((c): Neighbour[] => {
    const own = reflow.parts.get(c.id);
    return own && c.id !== id ? [{ box: own, name: c.name }] : [];
  });
  const edges = { left: outer.x, right: right(outer), top: outer.y, bottom: bottom(outer) };
  return SIDES.map((side) => {
    const next = nearest(box, others, side);
    if (!next) return between(box, side, edges[side], parent.name);
    const { box: o } = next;
    const at = { left: right(o), right: o.x, top: bottom(o), bottom: o.y }[side];
    return between(box, side, at, next.name);
  });
}

/** How far the part in hand is from another that is pointed at: across and down, where they lie apart. */
function toOther(box: Rect, other: Neighbour): Distance[] {
  const { box: o, name } = other;
  return [
    ...(right(o) <= box.x ? [between(box, 'left', right(o), name)] : []),
    ...(o.x >= right(box) ? [between(box, 'right', o.x, name)] : []),
    ...(bottom(o) <= box.y ? [between(box, 'top', bottom(o), name)] : []),
    ...(o.y >= bottom(box) ? [between(box, 'bottom', o.y, name)] : []),
  ];
}

/** The distances to show while a part is pointed at: to the part in hand where they lie apart, else to what is around it. */
export function distancesOf(
  root: Part,
  reflow: Reflow,
  pointed: string,
  selected: string | undefined,
): readonly Distance[] {
  const box = reflow.parts.get(pointed);
  if (!box) return [];
  const hand = selected === undefined ? undefined : reflow.parts.get(selected);
  const part = findPart(root, pointed);
  if (hand && part && selected !== pointed) {
    const found = toOther(hand, { box, name: part.name });
    if (found.length > 0) return found;
  }
  return aroundIt(root, reflow, pointed, box);
}

const ARROWS: Readonly<Record<Distance['side'], string>> = { left: '←', right: '→', top: '↑', bottom: '↓' };

/** Distances as they stand in the line above a sheet. */
export const inShort = (distances: readonly Distance[]): string =>
  distances.map(({ side, px }) => `${ARROWS[side]} ${Math.round(px * 10) / 10}`).join('  ');

/** Distances in words. */
export const inWords = (distances: readonly Distance[]): string =>
  distances.map(({ side, px, to }) => `${side} ${Math.round(px * 10) / 10} to “${to}”`).join(', ');
