import type { Reflow } from '@tinfold/core/layout';
import {
  bottom,
  contains,
  findPart,
  isHorizontal,
  right,
  ruleOf,
  type Part,
  type Rect,
} from '@tinfold/core/model';

/** Where a part that is carried over a sheet would be put: into a container, before so many of its other parts. */
export interface Landing {
  readonly parent: string;
  readonly at: number;
  /** The line at which it would stand, px of the frame. */
  readonly line: readonly [x1: number, y1: number, x2: number, y2: number];
}

/** The innermost container at a point that the part could stand in. */
function holderAt(root: Part, reflow: Reflow, carried: string, x: number, y: number): Part | undefined {
  let found: Part | undefined;
  const visit = (part: Part): void => {
    const box = reflow.parts.get(part.id);
    if (part.id === carried || !box || !contains(box, { x, y, width: 0, height: 0 }, 0)) return;
    if (part.kind === 'container') found = part;
    part.children.forEach(visit);
  };
  visit(root);
  return found;
}

/** Where a part would stand that is let go at a point; undefined where nothing could hold it. */
export function landingAt(
  root: Part,
  reflow: Reflow,
  carried: string,
  x: number,
  y: number,
): Landing | undefined {
  const parent = holderAt(root, reflow, carried, x, y);
  const outer = reflow.parts.get(parent?.id ?? '');
  if (!parent || !outer || findPart(parent, carried) === parent) return undefined;
  const level = isHorizontal(ruleOf(parent.rules, 'flow')) || ruleOf(parent.rules, 'flow') === 'grid';
  const others = parent.children.filter((c) => c.id !== carried && !c.rules.pin && reflow.parts.has(c.id));
  const boxOf = (p: Part): Rect => reflow.parts.get(p.id) as Rect;
  // Of lines of a wrap and rows of a grid, those above the point come first.
  const isBefore = (b: Rect): boolean =>
    level ? bottom(b) <= y || (b.y <= y && b.x + b.width / 2 < x) : b.y + b.height / 2 < y;
  const before = others.filter((p) => isBefore(boxOf(p)));
  const last = before.at(-1);
  const next = others[before.length];
  const at = parent.children.filter((c) => c.id !== carried).indexOf(last ?? parent) + 1;
  const edge = level
    ? last && next && boxOf(next).y < bottom(boxOf(last))
      ? (right(boxOf(last)) + boxOf(next).x) / 2
      : next
        ? boxOf(next).x
        : last
          ? right(boxOf(last))
          : outer.x
    : last && next
      ? (bottom(boxOf(last)) + boxOf(next).y) / 2
      : next
        ? boxOf(next).y
        : last
          ? bottom(boxOf(last))
          : outer.y;
  const beside = next ? boxOf(next) : last ? boxOf(last) : outer;
  return {
    parent: parent.id,
    at,
    line: level ? [edge, beside.y, edge, bottom(beside)] : [outer.x, edge, right(outer), edge],
  };
}
