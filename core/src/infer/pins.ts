import {
  bottom,
  FILL,
  FIT,
  fixed,
  right,
  type Pin,
  type Rect,
  type Rules,
  type Size,
} from '../model/index.js';
import type { Builder } from './build.js';
import { isHolder, isText, near, type Node } from './node.js';
import type { Seat } from './seat.js';

/** Margins up to this, even at both sides, are an inset of something that fills, px. */
const EVEN_MARGIN = 48;

/** The pin of something that lies over `parent`, and its sizes: it hangs on the nearest edges or the middle. */
export function pinRules(node: Node, parent: Rect, b: Builder): Omit<Seat, 'node'> {
  const by = b.tolerance.same;
  const { box } = node;
  const [l, r] = [box.x - parent.x, right(parent) - right(box)];
  const [t, d] = [box.y - parent.y, bottom(parent) - bottom(box)];
  const spansX = Math.abs(l) <= by && Math.abs(r) <= by;
  const spansY = Math.abs(t) <= by && Math.abs(d) <= by;
  const width = pinWidth(node, spansX, b);
  // Between small even margins it is as wide as they leave it, not as wide as drawn.
  const inset =
    width.kind === 'fill' &&
    !spansX &&
    l > 0 &&
    l <= EVEN_MARGIN &&
    near(l, r, by * 1.5) &&
    parent.width > l * 8;
  const pin: Pin = {
    ...(inset ? { left: l, right: r } : hang(['left', 'right', 'centreX'], l, r, spansX, by)),
    ...hang(['top', 'bottom', 'centreY'], t, d, spansY, by),
  };
  const rules: Rules = {
    pin,
    width,
    height: spansY ? FILL : b.heightRule(node, box, fixed(box.width)),
    ...(width.kind === 'fill' && !spansX && !inset && { maxWidth: box.width }),
  };
  return { rules, box: spansX ? { ...box, x: parent.x, width: parent.width } : box };
}

/** The edges of one axis on which a box at these distances hangs. */
function hang(
  [start, far, centre]: readonly [keyof Pin, keyof Pin, keyof Pin],
  before: number,
  after: number,
  spans: boolean,
  by: number,
): Pin {
  if (spans) return { [start]: 0, [far]: 0 };
  if (near(before, after, by * 1.5)) return { [centre]: 0 };
  return Math.abs(before) <= Math.abs(after) ? { [start]: before } : { [far]: after };
}

function pinWidth(node: Node, spans: boolean, b: Builder): Size {
  if (spans) return FILL;
  if (isText(node) || (isHolder(node) && b.fits(node)))
    return node.item?.kind === 'text' && node.item.lines.length > 1 ? FILL : FIT;
  return isHolder(node) && node.children.length > 0 ? FILL : fixed(node.box.width);
}
