import { area, bottom, right, ruleOf, type Part, type Rect } from '../../model/index.js';

/** A frame with what stands in it. */
export interface Frame {
  readonly width: number;
  readonly height: number;
  readonly boxes: ReadonlyMap<string, Rect>;
}

/** What touches an edge is no further from it than this, px. */
const TOUCH = 2;
/** A bar is so many times as wide as high at least; a rail takes no more of the frame's width than this. */
const BAR = 5;
const RAIL = 0.34;
/** What takes more of the frame than this is what the screen is about. */
const MAIN = 0.5;

const isTranslucent = (part: Part): boolean =>
  part.paint?.fill?.kind === 'solid' && /^#[0-9a-f]{8}$/i.test(part.paint.fill.colour);

/** Whether a part lies over the whole frame and lets it shine through. */
export const isScrim = (part: Part, { width, height, boxes }: Frame): boolean => {
  const box = boxes.get(part.id);
  const dims = isTranslucent(part) || (part.paint?.opacity ?? 1) < 1;
  return box !== undefined && dims && box.width >= width - TOUCH && box.height >= height - TOUCH;
};

/**
 * What a part is called for its place in the frame, among what stands beside it, of which the first lies lowest; undefined where
 * its place says nothing.
 */
export function placeNameOf(part: Part, siblings: readonly Part[], frame: Frame): string | undefined {
  const box = frame.boxes.get(part.id);
  if (!box || part.kind !== 'container') return undefined;
  const before = siblings.slice(0, siblings.indexOf(part));
  if (before.some((s) => isScrim(s, frame))) return 'Dialog';
  const [left, top] = [box.x <= TOUCH, box.y <= TOUCH];
  const [end, foot] = [right(box) >= frame.width - TOUCH, bottom(box) >= frame.height - TOUCH];
  const isBar = left && end && box.width >= box.height * BAR;
  if (isBar && top && ruleOf(part.rules, 'flow') === 'row') return 'Top bar';
  const isMadeAlike = part.children.filter((c) => c.pattern !== undefined).length > 2;
  if (isBar && foot && (part.rules.pin || isMadeAlike)) return 'Bottom bar';
  if (left && end && foot && !top && box.height < frame.height * MAIN && siblings.at(-1) === part)
    return 'Footer';
  const isTall = box.height >= frame.height * MAIN && box.width <= frame.width * RAIL;
  if (isTall && (left || end) && left !== end) return left ? 'Side rail' : 'Side panel';
  if (siblings.length > 1 && area(box) >= frame.width * frame.height * MAIN) return 'Page';
  return undefined;
}
