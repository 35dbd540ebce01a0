import { coreBox, type Drawing, type Item, type TextItem } from '../drawing/index.js';
import { BoxIndex, bottom, centreY, contains, overlap, right, type Rect } from '../model/index.js';
import { listLeading, sizeOf } from './listLeading.js';
import { commonest } from './stack.js';

/** Up to this size type is set in lines that grow twice as fast as it; from here on they are taller by {@link TALLER}. */
const RUNNING = 16;
const TALLER = 8;
/** Lines may reach this far into each other before they were set closer than usual, px. */
const TOUCH = 0.5;
/** Boxes that reach into each other by no more than this do not lie over each other, px. */
const COVERS = 1;

/** Type of these sizes is running text, px; set at this many times its size and more it is set loosely. */
const READ = { from: 12, to: 20, loosely: 1.55 };

/**
 * How high a line of type of a size usually is, px: running text is set loosely, headings closely. Where all paragraphs
 * are set at so many times their size, `leading`, and that is more than usual, lines that stand alone are as well.
 */
function usualLineHeight(size: number, leading: number | undefined): number {
  if (leading !== undefined && size <= READ.to) return size * leading;
  return size < RUNNING ? 2 * size - (RUNNING - TALLER) : size + TALLER;
}

/** What the least of the paragraphs of running text, or without any the lists, are set at, where they are set loosely. */
function looseLeading(drawings: readonly Drawing[]): number | undefined {
  const leadings = drawings.flatMap(({ items }) =>
    items.flatMap((item) => {
      if (item.kind !== 'text' || item.lines.length < 2) return [];
      const size = sizeOf(item);
      return size >= READ.from && size <= READ.to ? [item.content.lineHeight / size] : [];
    }),
  );
  const least = leadings.length > 0 ? Math.min(...leadings) : (listLeading(drawings[0]?.items ?? []) ?? 0);
  return least >= READ.loosely ? least : undefined;
}

const styleOf = (item: TextItem): string => {
  const style = item.content.runs[0]?.style;
  return `${style?.family}|${style?.weight}|${style?.size.toFixed(1)}`;
};

type Guessed = TextItem & { readonly guessedLineHeight: true };
const isGuessed = (item: Item): item is Guessed => item.kind === 'text' && item.guessedLineHeight === true;

/** The text in lines of another height: its letters stay where they are. */
function withLineHeight(item: TextItem, lineHeight: number): TextItem {
  const taller = lineHeight - item.content.lineHeight;
  const { guessedLineHeight: _guessed, ...rest } = item;
  return {
    ...rest,
    content: { ...item.content, lineHeight },
    box: { ...item.box, y: item.box.y - taller / 2, height: lineHeight * item.lines.length },
  };
}

/** The line height that a style has where lines of it are drawn under each other. */
function drawnPitches(drawings: readonly Drawing[]): Map<string, number> {
  const pitches = new Map<string, number>();
  for (const { items } of drawings) {
    const heights = new Map<string, number[]>();
    for (const item of items)
      if (item.kind === 'text' && item.lines.length > 1)
        heights.set(styleOf(item), [...(heights.get(styleOf(item)) ?? []), item.content.lineHeight]);
    for (const [style, own] of heights)
      if (!pitches.has(style))
        pitches.set(
          style,
          commonest(
            own.sort((a, b) => a - b),
            0.05,
          ).value,
        );
  }
  return pitches;
}

/**
 * What of some items, in the order of paint, is on one layer with one of them: between the two no box is painted that
 * lies over the lower one and is, or holds, the upper one: a dialog over a list.
 */
function onLayer(item: Item, around: readonly Item[]): Item[] {
  const own = around.indexOf(item);
  const core = coreBox(item);
  const meets = (box: Rect, other: Rect) => Math.min(...overlap(box, other)) > COVERS;
  const boxes = around.map((box, at) => ({ box, at })).filter(({ box }) => box.kind === 'shape');
  const holding = boxes.filter(({ box, at }) => at <= own && (at === own || contains(box.box, core, COVERS)));
  const covering = boxes.filter(({ box, at }) => at > own && meets(box.box, core));
  return around.filter((other, at) => {
    const otherCore = coreBox(other);
    return at < own
      ? !holding.some((h) => h.at > at && meets(h.box.box, otherCore))
      : !covering.some((c) => c.at <= at && (c.at === at || contains(c.box.box, otherCore, COVERS)));
  });
}

/** The largest line height, up to the usual one, for which a line reaches into nothing that it stood clear of. */
function roomFor(item: TextItem, heights: ReadonlyMap<Item, number>, around: readonly Item[]): number {
  const own = heights.get(item) ?? 0;
  const middle = centreY(item.box);
  let room = own;
  for (const other of around) {
    if (other === item || other.box.x >= right(item.box) || right(other.box) <= item.box.x) continue;
    const off = Math.abs(centreY(other.box) - middle);
    const height = heights.get(other);
    if (height !== undefined) {
      // Two lines, each as high as it would be: what is too much is taken from both alike.
      const both = (own + height) / 2;
      if (off > item.content.lineHeight / 2 && both > off + TOUCH)
        room = Math.min(room, (own * (off + TOUCH)) / both);
    } else if (other.kind === 'shape' || other.kind === 'picture') {
      room = Math.min(room, roomBeside(coreBox(item), middle, other.box));
    }
  }
  return room < own ? Math.max(Math.min(own, item.content.lineHeight), Math.floor(room)) : own;
}

/** How high a line about a middle may be so that it stays inside or outside a box in which its letters lie or do not. */
function roomBeside(letters: Rect, middle: number, box: Rect): number {
  if (box.y <= letters.y && bottom(box) >= bottom(letters))
    return 2 * Math.min(middle - box.y, bottom(box) - middle);
  if (box.y >= bottom(letters)) return 2 * (box.y - middle + TOUCH);
  return bottom(box) <= letters.y ? 2 * (middle - bottom(box) + TOUCH) : Infinity;
}

/**
 * A drawing does not tell how high a line is that stands alone. It is read as high as the lines of a paragraph in the
 * same style in any of the drawings of a screen; else as usual for its size, as far as there is room for it. The
 * letters stay where they are. `drawings` come in the order in which they are believed.
 */
export function readLineHeights(drawings: readonly Drawing[]): Drawing[] {
  if (!drawings.some(({ items }) => items.some(isGuessed))) return [...drawings];
  const heights = drawnPitches(drawings);
  const leading = looseLeading(drawings);
  const rooms = new Map<string, number>();
  for (const { items } of drawings) {
    const wanted = new Map<Item, number>();
    for (const item of items) {
      if (item.kind !== 'text') continue;
      const known = heights.get(styleOf(item));
      wanted.set(
        item,
        known ?? (isGuessed(item) ? usualLineHeight(sizeOf(item), leading) : item.content.lineHeight),
      );
    }
    const index = new BoxIndex(items.map((i) => i.box));
    for (const item of items) {
      if (!isGuessed(item) || heights.has(styleOf(item))) continue;
      const more = wanted.get(item) ?? 0;
      const reach = { ...item.box, y: item.box.y - more, height: item.box.height + 2 * more };
      const near = index.meeting(reach).flatMap((at) => items[at] ?? []);
      const style = styleOf(item);
      rooms.set(style, Math.min(rooms.get(style) ?? Infinity, roomFor(item, wanted, onLayer(item, near))));
    }
  }
  const read = (item: Item): Item => {
    if (!isGuessed(item)) return item;
    const height = heights.get(styleOf(item)) ?? rooms.get(styleOf(item));
    return height === undefined ? item : withLineHeight(item, height);
  };
  return drawings.map((d) => ({ ...d, items: d.items.map(read) }));
}
