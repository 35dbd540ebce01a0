import type { Drawing } from '@tinfold/core/drawing';
import { bottom, overlap, right, type Rect } from '@tinfold/core/model';

/** The frame widths at which screens are looked at, px. */
export const JUDGED_WIDTHS = [
  320, 360, 414, 480, 560, 640, 720, 800, 900, 1000, 1100, 1200, 1280, 1366, 1440, 1600, 1760, 1920,
];

const clash = (a: Rect, b: Rect, by: number): boolean => Math.min(...overlap(a, b)) > by;

/**
 * Whether boxes alone say that a frame is plainly broken beside its drawing, whatever the rules: an independent judge that knows
 * nothing of the proof.
 */
export function isPlainlyBroken(drawing: Drawing, now: ReadonlyMap<string, Rect>, width: number): boolean {
  const shown = drawing.items.flatMap((item) => {
    const box = now.get(item.id);
    return box ? [{ item, was: item.box, is: box }] : [];
  });
  if (shown.length < drawing.items.length * 0.6) return true;
  for (const { item, was, is } of shown) {
    const stuckOut = was.x < -1 || right(was) > drawing.width + 1;
    if (!stuckOut && (is.x < -1 || right(is) > width + 1)) return true;
    if (item.kind === 'text' && is.width < was.width * 0.4 && is.height >= was.height * 3) return true;
    const grown = is.width * is.height > 5 * was.width * was.height;
    if (item.kind !== 'text' && was.height > 8 && width <= drawing.width && grown) return true;
  }
  return shown.some((a, i) =>
    shown
      .slice(i + 1)
      .some((b) => !clash(a.was, b.was, 0.5) && bottom(a.is) > b.is.y && clash(a.is, b.is, 3)),
  );
}
