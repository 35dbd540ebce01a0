import { area, contains, overlap, type Rect } from '../model/index.js';
import type { RawDrawing, RawItem } from './raw.js';
import { placeOf, rawId } from './cleanUp.js';

/** One of several screens that stand side by side in one file. */
export interface ScreenFrame {
  readonly name: string;
  readonly box: Rect;
}

/** The smallest frame that is a screen, px. */
const SMALLEST = { width: 240, height: 320 };
/** The share of the other items that lies in frames where a file holds several. */
const HELD = 0.85;
/** Fewer items than this make no screen. */
const FEWEST = 3;

const groupsOf = (item: RawItem): readonly string[] =>
  item.kind === 'text' ? item.groups : item.item.groups;

/** The name of the group that this frame alone stands in, else of its rectangle where it has one of its own. */
function nameOf(frame: RawItem, all: readonly RawItem[], n: number): string {
  const alone = groupsOf(frame).find((g) => !all.some((f) => f !== frame && groupsOf(f).includes(g)));
  if (alone !== undefined) return alone;
  return frame.kind !== 'text' && frame.named ? rawId(frame) : `Screen ${n}`;
}

/**
 * The screens that stand side by side in a file, left to right and then downwards: large filled boxes apart from each
 * other that hold nearly everything in the file. Empty where the file is one screen.
 */
export function framesIn({ width, height, items }: RawDrawing): ScreenFrame[] {
  const whole = { x: 0, y: 0, width, height };
  const shown = items.filter((i) => i.leftOut !== 'hidden');
  const large = shown.filter(
    (i) =>
      i.kind === 'shape' &&
      i.item.paint.fill !== undefined &&
      i.item.box.width >= SMALLEST.width &&
      i.item.box.height >= SMALLEST.height &&
      !contains(i.item.box, whole, 1),
  );
  const outermost = large.filter(
    (i) =>
      !large.some(
        (o) => o !== i && area(placeOf(o)) > area(placeOf(i)) && contains(placeOf(o), placeOf(i), 1),
      ),
  );
  // Of two that cover each other exactly the first is the frame.
  const frames = outermost.filter(
    (i, at) => !outermost.slice(0, at).some((o) => overlap(placeOf(o), placeOf(i)).every((n) => n > 1)),
  );
  if (frames.length < 2) return [];
  const touching = frames.some((a, i) =>
    frames.slice(i + 1).some((b) => overlap(placeOf(a), placeOf(b)).every((n) => n > -8)),
  );
  const others = shown.filter((i) => !frames.includes(i) && !contains(placeOf(i), whole, 1));
  const heldBy = (frame: RawItem) => others.filter((o) => contains(placeOf(frame), placeOf(o), 1)).length;
  const counts = frames.map(heldBy);
  const held = counts.reduce((sum, n) => sum + n, 0);
  if (touching || counts.some((n) => n < FEWEST) || held < others.length * HELD) return [];
  return frames
    .toSorted((a, b) => placeOf(a).y - placeOf(b).y || placeOf(a).x - placeOf(b).x)
    .map((frame, i) => ({ name: nameOf(frame, frames, i + 1), box: placeOf(frame) }));
}
