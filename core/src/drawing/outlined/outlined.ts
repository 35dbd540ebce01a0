import type { TextStyle } from '../../model/index.js';
import type { Note } from '../items.js';
import type { RawDrawing, RawItem, RawShape, RawText } from '../raw.js';
import { contoursOf, pathOf, type Contour } from './contours.js';
import type { GlyphTable } from './glyphTable.js';
import { withIcons } from './icons.js';
import { recognise, type Piece, type ReadLine } from './recognise.js';

/** Higher shapes are no glyphs, px. */
const HIGHEST = 300;
/** No more closed lines are looked at. */
const MOST_PIECES = 200_000;

interface Candidate {
  readonly item: number;
  readonly contours: readonly Contour[];
}

const mayBeWords = (item: RawItem): item is RawShape =>
  (item.kind === 'shape' || item.kind === 'art') &&
  item.leftOut === undefined &&
  item.art.fill !== undefined &&
  item.art.stroke === undefined &&
  item.item.box.height <= HIGHEST;

const paintOf = ({ art }: RawShape): string => `${art.fill} ${art.opacity ?? 1}`;

/** The shapes of a drawing that may be glyphs, taken apart into their closed lines. */
function candidatesIn(items: readonly RawItem[]): Candidate[] {
  const found: Candidate[] = [];
  let pieces = 0;
  for (const [item, raw] of items.entries()) {
    if (!mayBeWords(raw) || pieces > MOST_PIECES) continue;
    const contours = contoursOf(raw.art.d);
    pieces += contours.length;
    if (contours.length > 0) found.push({ item, contours });
  }
  return found;
}

/** Whether a drawing may have words as outlines: filled shapes of the size of letters that are no plain boxes. */
export const mayHaveOutlines = ({ items }: RawDrawing): boolean =>
  items.some((item) => mayBeWords(item) && item.kind === 'art');

function textOf(line: ReadLine, id: string, groups: readonly string[], table: GlyphTable): RawText {
  const { family, weight, italic } = table.styles[line.style] ?? {
    family: 'Inter',
    weight: 400,
    italic: false,
  };
  const [colour = '#000000'] = line.paint.split(' ');
  const style: TextStyle = {
    family,
    size: line.size,
    weight,
    italic,
    letterSpacing: 0,
    colour,
  };
  return {
    kind: 'text',
    id,
    groups,
    chunks: [
      {
        x: line.x,
        y: line.baseline,
        anchor: 'start',
        span: line.span,
        last: line.last,
        runs: [{ text: line.text, style }],
      },
    ],
  };
}

/** What is left of a shape of which some closed lines were glyphs. */
function remainder(shape: RawShape, left: readonly Contour[]): RawShape {
  const box = {
    x: Math.min(...left.map((c) => c.left)),
    y: Math.min(...left.map((c) => c.top)),
    width: 0,
    height: 0,
  };
  box.width = Math.max(...left.map((c) => c.right)) - box.x;
  box.height = Math.max(...left.map((c) => c.bottom)) - box.y;
  const art = { ...shape.art, d: left.map(pathOf).join('') };
  const { id, groups, paint } = shape.item;
  return {
    ...shape,
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

/** Converters leave specks where a glyph's outlines cross, px. */
const SPECK = 0.3;
const isSeen = (c: Contour): boolean => c.right - c.left > SPECK || c.bottom - c.top > SPECK;

/** What was read of words that a drawing has as outlines. */
function notesOf(lines: readonly ReadLine[], ids: readonly string[], table: GlyphTable): Note[] {
  const byStyle = new Map<string, { glyphs: number; ids: string[] }>();
  lines.forEach((line, i) => {
    const { family, weight, italic } = table.styles[line.style] ?? { family: '', weight: 400, italic: false };
    const name = `${family}${weight === 400 ? '' : ` ${weight}`}${italic ? ' italic' : ''} ${line.size}`;
    const entry = byStyle.get(name) ?? { glyphs: 0, ids: [] };
    entry.glyphs += line.glyphs;
    entry.ids.push(ids[i] ?? '');
    byStyle.set(name, entry);
  });
  return [...byStyle].map(([name, { glyphs, ids: own }]) => ({
    kind: 'cleaned up',
    text: `words were outlines: read as ${name} (${glyphs} ${glyphs === 1 ? 'glyph' : 'glyphs'})`,
    items: own,
  }));
}

/** A drawing with its words, where they are outlines of known glyphs, as texts. */
export function withWords(raw: RawDrawing, table: GlyphTable): RawDrawing {
  const candidates = candidatesIn(raw.items);
  const pieces: Piece[] = [];
  const owners: { candidate: number; contour: Contour }[] = [];
  candidates.forEach(({ item, contours }, candidate) => {
    const paint = paintOf(raw.items[item] as RawShape);
    for (const contour of contours) {
      pieces.push({ contour, paint });
      owners.push({ candidate, contour });
    }
  });
  const lines = recognise(pieces, table);
  if (lines.length === 0) return { ...raw, items: withIcons(raw.items) };
  /** The closed lines of each candidate that are glyphs. */
  const used = new Map<number, Set<Contour>>();
  /** The texts that take the place of an item. */
  const instead = new Map<number, ReadLine[]>();
  for (const line of lines) {
    let first = Infinity;
    for (const p of line.pieces) {
      const { candidate, contour } = owners[p] as (typeof owners)[number];
      const { item } = candidates[candidate] as Candidate;
      used.set(item, (used.get(item) ?? new Set()).add(contour));
      first = Math.min(first, item);
    }
    instead.set(first, [...(instead.get(first) ?? []), line]);
  }
  const ids: string[] = [];
  const order: ReadLine[] = [];
  const contoursAt = new Map(candidates.map((c) => [c.item, c.contours]));
  const items = raw.items.flatMap((item, i): RawItem[] => {
    const gone = used.get(i);
    if (!gone || (item.kind !== 'shape' && item.kind !== 'art')) return [item];
    const left = (contoursAt.get(i) ?? []).filter((c) => !gone.has(c) && isSeen(c));
    const texts = (instead.get(i) ?? [])
      .toSorted((a, b) => a.baseline - b.baseline || a.x - b.x)
      .map((line, n) => {
        const id = n === 0 ? item.item.id : `${item.item.id}-line-${n + 1}`;
        ids.push(id);
        order.push(line);
        return textOf(line, id, item.item.groups, table);
      });
    const rest = left.length > 0 ? [remainder(item, left)] : [];
    // What is left may have been part of an icon; its name is free where no text took it.
    return [
      ...texts,
      ...rest.map((r) => (texts.length > 0 ? { ...r, item: { ...r.item, id: `${r.item.id}-rest` } } : r)),
    ];
  });
  return { ...raw, items: withIcons(items), notes: [...raw.notes, ...notesOf(order, ids, table)] };
}
