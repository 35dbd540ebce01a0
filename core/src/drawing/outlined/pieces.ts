import type { ArtPath } from '../../model/index.js';
import { normalColour } from '../colour.js';
import type { RawDrawing, RawItem, RawShape, RawText } from '../raw.js';
import { closed, contoursOf, pathOf, type Contour } from './contours.js';

/** A closed line of a drawing that may belong to a glyph. */
export interface Piece {
  readonly contour: Contour;
  /** What its item is filled with: the glyphs of a line are filled alike. */
  readonly paint: string;
  /** Place of its item in the drawing. */
  readonly item: number;
}

/** Higher shapes are no glyphs, px. */
const HIGHEST = 300;
/** No more closed lines are looked at. */
const MOST_PIECES = 200_000;
/** Converters leave specks where a glyph's outlines cross, px. */
const SPECK = 0.3;

const known = new WeakMap<RawShape, readonly Contour[]>();

/** The closed lines of a shape, found once however often they are asked for. */
function linesOf(shape: RawShape): readonly Contour[] {
  let found = known.get(shape);
  if (!found) known.set(shape, (found = shape.lines ? closed(shape.lines) : contoursOf(shape.art.d)));
  return found;
}

const isShape = (item: RawItem): item is RawShape => item.kind === 'shape' || item.kind === 'art';

const mayBeWords = (item: RawItem): item is RawShape =>
  isShape(item) &&
  item.leftOut === undefined &&
  item.art.fill !== undefined &&
  item.art.stroke === undefined &&
  item.item.box.height <= HIGHEST;

/** Whether a drawing may have words as outlines: filled shapes of the size of letters that are no plain boxes. */
export const mayHaveOutlines = ({ items }: RawDrawing): boolean =>
  items.some((item) => mayBeWords(item) && item.kind === 'art');

const paintOf = ({ fill, opacity = 1 }: ArtPath): string =>
  normalColour(fill ?? '#000000', opacity) ?? 'transparent';

/** The closed lines of all shapes that may be glyphs. */
export function piecesOf(items: readonly RawItem[]): Piece[] {
  const pieces: Piece[] = [];
  for (const [item, raw] of items.entries()) {
    if (!mayBeWords(raw) || pieces.length > MOST_PIECES) continue;
    const paint = paintOf(raw.art);
    for (const contour of linesOf(raw)) pieces.push({ contour, paint, item });
  }
  return pieces;
}

/** A line of words that takes the place of some pieces. */
export interface Instead {
  readonly pieces: readonly number[];
  readonly x: number;
  readonly baseline: number;
  /** The text, with the name and the groups of the shape that was there. */
  readonly text: (id: string, groups: readonly string[]) => RawText;
}

/** What is left of a shape of which some closed lines were glyphs. */
function remainder(shape: RawShape, left: readonly Contour[], id: string): RawShape {
  const [x, y] = [Math.min(...left.map((c) => c.left)), Math.min(...left.map((c) => c.top))];
  const box = {
    x,
    y,
    width: Math.max(...left.map((c) => c.right)) - x,
    height: Math.max(...left.map((c) => c.bottom)) - y,
  };
  const art = { ...shape.art, d: left.map((c) => pathOf(c)).join('') };
  const { groups, paint } = shape.item;
  const { lines: _whole, ...rest } = shape;
  return {
    ...rest,
    kind: 'art',
    art,
    item: {
      kind: 'art',
      id,
      groups,
      box,
      paint: paint.shadow ? { shadow: paint.shadow } : {},
      content: { kind: 'art', view: [box.x, box.y, box.width, box.height], paths: [art] },
    },
  };
}

const isSeen = (c: Contour): boolean => c.right - c.left > SPECK || c.bottom - c.top > SPECK;

/**
 * The items with lines of words in place of the pieces that they were read from. A line stands where the first of its
 * pieces stood and takes its name; what else a shape had stays.
 */
export function replaced(
  items: readonly RawItem[],
  pieces: readonly Piece[],
  lines: readonly Instead[],
): RawItem[] {
  const used = new Map<number, Set<Contour>>();
  const instead = new Map<number, Instead[]>();
  for (const line of lines) {
    let first = Infinity;
    for (const p of line.pieces) {
      const { item, contour } = pieces[p] as Piece;
      used.set(item, (used.get(item) ?? new Set()).add(contour));
      first = Math.min(first, item);
    }
    instead.set(first, [...(instead.get(first) ?? []), line]);
  }
  return items.flatMap((item, i): RawItem[] => {
    const gone = used.get(i);
    if (!gone || !isShape(item)) return [item];
    const { id, groups } = item.item;
    const texts = (instead.get(i) ?? [])
      .toSorted((a, b) => a.baseline - b.baseline || a.x - b.x)
      .map((line, n) => line.text(n === 0 ? id : `${id}-line-${n + 1}`, groups));
    const left = linesOf(item).filter((c) => !gone.has(c) && isSeen(c));
    // What is left may have been part of an icon; its name is free where no text took it.
    return left.length === 0
      ? texts
      : [...texts, remainder(item, left, texts.length > 0 ? `${id}-rest` : id)];
  });
}
