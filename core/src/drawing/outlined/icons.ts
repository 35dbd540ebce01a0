import { overlap, union, type Rect } from '../../model/index.js';
import type { RawItem, RawShape } from '../raw.js';

/** The largest side of an icon, px. */
const LARGEST = 48;
/** Pieces of one icon that do not meet are no further apart than this share of its side. */
const APART = 0.35;
/** A filled box of this side or more is a ground on which something lies, px. */
const GROUND = 20;

const isPiece = (item: RawItem): item is RawShape => {
  if (item.kind !== 'shape' && item.kind !== 'art') return false;
  const { box } = item.item;
  const isGround =
    item.kind === 'shape' && item.item.paint.fill !== undefined && Math.min(box.width, box.height) >= GROUND;
  return (
    !item.named &&
    item.icon === undefined &&
    item.leftOut === undefined &&
    !isGround &&
    Math.max(box.width, box.height) <= LARGEST
  );
};

/** Whether a piece goes on with an icon that is painted so far. */
function goesOn(icon: Rect, piece: Rect): boolean {
  const whole = union([icon, piece]);
  const side = Math.max(whole.width, whole.height);
  return side <= LARGEST && overlap(icon, piece).every((n) => n > -APART * side);
}

/**
 * Marks pieces that are painted one after the other and lie together as those of one icon: files from converters have no
 * groups that would say so.
 */
export function withIcons(items: readonly RawItem[]): RawItem[] {
  const found: RawItem[] = [];
  let pieces: RawShape[] = [];
  const end = (): void => {
    const icon = pieces[0]?.item.id;
    // Dots in rings are the marks of fields; what is drawn in strokes alone is an icon.
    const isDrawn = pieces.some((p) => p.kind === 'art') || pieces.every((p) => p.art.fill === undefined);
    const isIcon = pieces.length > 1 && isDrawn && icon !== undefined;
    found.push(...(isIcon ? pieces.map((p) => ({ ...p, icon })) : pieces));
    pieces = [];
  };
  for (const item of items) {
    if (!isPiece(item)) {
      // What is not shown parts nothing.
      if (item.leftOut === undefined) end();
      found.push(item);
      continue;
    }
    const sofar = pieces.length > 0 ? union(pieces.map((p) => p.item.box)) : undefined;
    const isElsewhere = pieces[0]?.item.groups.join() !== item.item.groups.join();
    if (sofar && (isElsewhere || !goesOn(sofar, item.item.box))) end();
    pieces.push(item);
  }
  end();
  return found;
}
