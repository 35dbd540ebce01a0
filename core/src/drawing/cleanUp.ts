import { overlap, union } from '../model/index.js';
import type { ArtItem, Note } from './items.js';
import type { RawDrawing, RawItem, RawShape } from './raw.js';

export const CLEAN_UP_KINDS = [
  'hidden',
  'transparent',
  'unpainted',
  'off the frame',
  'icon',
  'double',
  'words',
] as const;
/** Something that importing does to make a drawing cleaner, and that can be taken back. */
export type CleanUpKind = (typeof CLEAN_UP_KINDS)[number];

/** What the designer has decided about the items of a drawing. */
export interface DrawingDecisions {
  /** Clean-ups that are taken back for all alike. */
  readonly keepKinds: readonly CleanUpKind[];
  /** Items for which any clean-up is taken back. */
  readonly keep: readonly string[];
  /** Items that are to be left out. */
  readonly ignore: readonly string[];
}

export const NO_DECISIONS: DrawingDecisions = { keepKinds: [], keep: [], ignore: [] };

const SENTENCES: Readonly<Record<CleanUpKind, string>> = {
  hidden: 'hidden elements left out',
  transparent: 'wholly transparent elements left out',
  unpainted: 'shapes without any paint left out',
  'off the frame': 'elements outside the frame left out',
  icon: 'icons put together from path pieces',
  double: 'shapes exactly under an equal one left out',
  words: 'texts put together from lines or words',
};

/** The note of a clean-up. */
export const cleanUpNote = (kind: CleanUpKind, items: readonly string[]): Note => ({
  kind: kind === 'icon' || kind === 'words' ? 'cleaned up' : 'left out',
  text: SENTENCES[kind],
  items,
  cleanUp: kind,
});

export const rawId = (item: RawItem): string => (item.kind === 'text' ? item.id : item.item.id);

/** Joins the pieces of an icon to one item that has the icon's id. */
function joinPieces(id: string, pieces: readonly RawShape[]): RawItem {
  const box = union(pieces.map((p) => p.item.box));
  const item: ArtItem = {
    kind: 'art',
    id,
    box,
    groups: pieces[0]?.item.groups.filter((g) => g !== id) ?? [],
    paint: {},
    content: { kind: 'art', view: [box.x, box.y, box.width, box.height], paths: pieces.map((p) => p.art) },
  };
  return { kind: 'art', named: true, item, art: { d: '' } };
}

/** Whether the later of two shapes covers the earlier one exactly and is painted alike. */
function isDouble(a: RawItem, b: RawItem): boolean {
  if (a.kind !== 'shape' || b.kind !== 'shape') return false;
  const [w, h] = overlap(a.item.box, b.item.box);
  const same = [a.item.box, b.item.box].every(
    (r) => Math.abs(r.width - w) < 0.01 && Math.abs(r.height - h) < 0.01,
  );
  return same && JSON.stringify(a.item.paint) === JSON.stringify(b.item.paint);
}

/**
 * Cleans a raw drawing up as far as the designer has not taken it back: gives the items that remain, in paint order,
 * and what was done.
 */
export function cleanUp(raw: RawDrawing, decisions: DrawingDecisions): { items: RawItem[]; notes: Note[] } {
  const done = new Map<CleanUpKind, string[]>();
  const keeps = (kind: CleanUpKind, id: string) =>
    decisions.keepKinds.includes(kind) || decisions.keep.includes(id);
  const record = (kind: CleanUpKind, id: string): void => {
    const ids = done.get(kind);
    if (ids) ids.push(id);
    else done.set(kind, [id]);
  };
  const ignored: string[] = [];
  const items: RawItem[] = [];
  for (let i = 0; i < raw.items.length; i++) {
    const item = raw.items[i] as RawItem;
    const id = rawId(item);
    if (item.leftOut && !keeps(item.leftOut, id)) {
      record(item.leftOut, id);
      continue;
    }
    const icon = item.kind === 'shape' || item.kind === 'art' ? item.icon : undefined;
    if (icon !== undefined && !keeps('icon', icon)) {
      const pieces: RawShape[] = [];
      while (i < raw.items.length) {
        const next = raw.items[i] as RawItem;
        if (next.kind === 'text' || next.kind === 'picture' || next.icon !== icon) break;
        pieces.push(next);
        i++;
      }
      i--;
      record('icon', icon);
      if (decisions.ignore.includes(icon)) ignored.push(icon);
      else items.push(joinPieces(icon, pieces));
      continue;
    }
    if (decisions.ignore.includes(id)) {
      ignored.push(id);
      continue;
    }
    const last = items.at(-1);
    if (last && isDouble(last, item) && !keeps('double', rawId(last))) {
      record('double', rawId(last));
      items.pop();
    }
    items.push(item);
  }
  const notes = [...done].map(([kind, ids]) => cleanUpNote(kind, ids));
  if (ignored.length > 0) notes.push({ kind: 'left out', text: 'items left out by you', items: ignored });
  return { items, notes };
}
