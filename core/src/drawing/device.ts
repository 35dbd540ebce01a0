import { bottom, centreX, centreY, type Rect } from '../model/index.js';
import type { RawDrawing, RawItem, RawText } from './raw.js';

/** The strips of the frame that the device itself covers, px. */
export interface SafeArea {
  readonly top: number;
  readonly bottom: number;
}

/** Wider frames are no phones. */
const WIDEST_PHONE = 480;
/** A status bar is no higher than this, px. */
const STATUS_BAR = 60;
const TIME = /^(?:[01]?\d|2[0-3]):[0-5]\d(?: ?[ap]m)?$/i;
const HOME_MARK = { minWidth: 90, maxWidth: 170, minHeight: 2, maxHeight: 8, reach: 40 };

const wordsOf = (text: RawText): string =>
  text.chunks
    .flatMap((c) => c.runs.map((r) => r.text))
    .join('')
    .trim();

const boxOf = (item: RawItem): Rect =>
  item.kind === 'text'
    ? { x: item.chunks[0]?.x ?? 0, y: item.chunks[0]?.y ?? 0, width: 0, height: 0 }
    : item.item.box;

/** The clock at the top of a phone and the signs at its right that stand level with it, and nothing else in that strip. */
function statusBar({ width, items }: RawDrawing): RawItem[] {
  const clock = items.find(
    (i): i is RawText =>
      i.kind === 'text' && boxOf(i).y < STATUS_BAR - 8 && boxOf(i).x < width / 2 && TIME.test(wordsOf(i)),
  );
  if (!clock) return [];
  const size = clock.chunks[0]?.runs[0]?.style.size ?? 15;
  const middle = boxOf(clock).y - size * 0.35;
  const strip = items.filter((i) => bottom(boxOf(i)) <= STATUS_BAR && boxOf(i).width < width * 0.6);
  const level = strip.filter((i) => {
    const off = i.kind === 'text' ? boxOf(i).y - size * 0.35 : centreY(boxOf(i));
    return Math.abs(off - middle) <= size;
  });
  const signs = level.filter((i) => i.kind !== 'text' && boxOf(i).x > width * 0.6 && boxOf(i).width <= 40);
  const words = level.filter((i) => i.kind === 'text' && i !== clock && !/^\d{1,3} ?%$/.test(wordsOf(i)));
  return signs.length > 0 && words.length === 0 ? level : [];
}

/** The short thick line at the foot of a phone. */
function homeMark({ width, height, items }: RawDrawing): RawItem[] {
  return items.filter((i) => {
    if (i.kind !== 'shape') return false;
    const { box, paint } = i.item;
    return (
      paint.radius !== undefined &&
      box.width >= HOME_MARK.minWidth &&
      box.width <= HOME_MARK.maxWidth &&
      box.height >= HOME_MARK.minHeight &&
      box.height <= HOME_MARK.maxHeight &&
      Math.abs(centreX(box) - width / 2) < 1.5 &&
      height - bottom(box) < HOME_MARK.reach &&
      height - bottom(box) >= 0
    );
  });
}

/** What the device itself draws over a phone's screen, and the strips that it takes. */
export function deviceItems(raw: RawDrawing): { items: RawItem[]; safeArea: SafeArea } | undefined {
  if (raw.width > WIDEST_PHONE || raw.width < 240) return undefined;
  const [bar, mark] = [statusBar(raw), homeMark(raw)];
  if (bar.length + mark.length === 0) return undefined;
  const top = bar.length > 0 ? Math.ceil(Math.max(...bar.map((i) => bottom(boxOf(i))))) + 6 : 0;
  const foot = mark.length > 0 ? raw.height - Math.min(...mark.map((i) => boxOf(i).y)) + 8 : 0;
  return { items: [...bar, ...mark], safeArea: { top, bottom: Math.round(foot) } };
}
