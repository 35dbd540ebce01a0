import type { Part } from '../model/index.js';
import type { Placed } from './box.js';
import type { Engine } from './engine.js';
import { factsOf } from './facts.js';
import { isRightToLeft } from './sizing.js';

/** A pin's distance in px from px and a share of the parent; undefined where it says nothing. */
const distance = (px: number | undefined, share: number | undefined, parent: number): number | undefined =>
  px === undefined && share === undefined ? undefined : (px ?? 0) + ((share ?? 0) * parent) / 100;

function along(
  near: number | undefined,
  far: number | undefined,
  centre: number | undefined,
  parent: number,
  own: number,
): number {
  if (centre !== undefined) return (parent - own) / 2 + centre;
  if (near !== undefined) return near;
  return far === undefined ? 0 : parent - own - far;
}

/**
 * The middle along the line. Automatic margins never turn negative there (CSS 2.2 §10.3.7): what is too wide begins
 * where lines begin.
 */
function centredX(parent: Part, shift: number, room: number, own: number): number {
  const free = room - own;
  return (free >= 0 ? free / 2 : isRightToLeft(parent) ? free : 0) + shift;
}

/** Places a pinned child in its parent's box (CSS Positioned Layout §4). */
export function placePin(
  engine: Engine,
  parent: Part,
  child: Part,
  parentWidth: number,
  parentHeight: number,
): Placed {
  const room = engine.pinRoom(parent, parentWidth, parentHeight);
  const pin = child.rules.pin ?? {};
  const left = distance(pin.left, pin.leftShare, room.width);
  const right = distance(pin.right, pin.rightShare, room.width);
  const top = distance(pin.top, pin.topShare, room.height);
  const bottom = distance(pin.bottom, pin.bottomShare, room.height);
  const sides = pin.centreX === undefined ? (left ?? 0) + (right ?? 0) : 0;
  const available = Math.max(0, room.width - sides);
  const facts = factsOf(child);
  const size = facts.width;
  const plain =
    size.kind === 'share' ? (room.width * size.percent) / 100 : engine.plainWidth(facts, available);
  const width = engine.clampWidth(facts, plain ?? engine.fitWidth(facts, available));
  const tall = facts.height;
  const height =
    tall.kind === 'fill'
      ? engine.clampHeight(
          facts,
          width,
          room.height - (pin.centreY === undefined ? (top ?? 0) + (bottom ?? 0) : 0),
        )
      : engine.ownHeight(facts, width, room.height);
  const box = engine.place(facts, width, height);
  const overfull =
    (size.kind === 'fit' || size.kind === 'fill') &&
    left !== undefined &&
    right !== undefined &&
    left + right > room.width;
  const x =
    // Where two edges leave no room, the one where lines begin holds (CSS Positioned Layout §4.1).
    overfull && isRightToLeft(parent)
      ? room.width - right
      : pin.centreX === undefined
        ? along(left, right, undefined, room.width, box.width)
        : centredX(parent, pin.centreX, room.width, box.width);
  return {
    box,
    x: room.edge + x,
    y: room.edge + along(top, bottom, pin.centreY, room.height, box.height),
  };
}
