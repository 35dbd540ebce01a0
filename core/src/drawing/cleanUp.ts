import { centreX, centreY, overlap, union, type Rect } from '../model/index.js';
import { deviceItems, type SafeArea } from './device.js';
import type { ArtItem, Note } from './items.js';
import type { Said, SetIn } from './outlined/said.js';
import type { RawDrawing, RawItem, RawShape } from './raw.js';

export const CLEAN_UP_KINDS = [
  'hidden',
  'transparent',
  'unpainted',
  'off the frame',
  'icon',
  'double',
  'outline',
  'background',
  'device',
  'words',
] as const;
/** Something that importing does to make a drawing cleaner, and that can be taken back. */
export type CleanUpKind = (typeof CLEAN_UP_KINDS)[number];

/** What an item can be taken for. */
export const ITEM_KINDS = ['box', 'text', 'picture', 'icon'] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];

/** An item that the designer takes for another kind; a text made of something else needs its words. */
export interface ForcedKind {
  readonly id: string;
  readonly kind: ItemKind;
  readonly words?: string;
}

/** What the designer has decided about the items of a drawing. */
export interface DrawingDecisions {
  /** The box of the screen in a file that holds several, px of the whole file. */
  readonly frame?: Rect;
  /** Clean-ups that are taken back for all alike. */
  readonly keepKinds: readonly CleanUpKind[];
  /** Items for which any clean-up is taken back. */
  readonly keep: readonly string[];
  /** Items that are to be left out. */
  readonly ignore: readonly string[];
  /** Items that are to be taken for another kind. */
  readonly force: readonly ForcedKind[];
  /** Items that are to be made one each; the first gives the name. */
  readonly join: readonly (readonly string[])[];
  /** What drawn words say. */
  readonly said: readonly Said[];
  /** The fonts in which drawn words are set. */
  readonly setIn: readonly SetIn[];
}

export const NO_DECISIONS: DrawingDecisions = {
  keepKinds: [],
  keep: [],
  ignore: [],
  force: [],
  join: [],
  said: [],
  setIn: [],
};

const SENTENCES: Readonly<Record<CleanUpKind, readonly [one: string, many: string]>> = {
  hidden: ['hidden element left out', 'hidden elements left out'],
  transparent: ['wholly transparent element left out', 'wholly transparent elements left out'],
  unpainted: ['shape without any paint left out', 'shapes without any paint left out'],
  'off the frame': ['element outside the frame left out', 'elements outside the frame left out'],
  icon: ['icon put together from path pieces', 'icons put together from path pieces'],
  double: ['shape exactly under an equal one left out', 'shapes exactly under an equal one left out'],
  outline: ['outline put on the fill that it goes round', 'outlines put on the fill that they go round'],
  background: ['shape taken for the frame’s own background', 'shapes taken for the frame’s own background'],
  device: [
    'item of the device left out, its home mark or status bar',
    'items of the device left out, its home mark or status bar',
  ],
  words: ['text put together from lines or words', 'texts put together from lines or words'],
};

const PUT_TOGETHER: ReadonlySet<CleanUpKind> = new Set(['icon', 'words', 'outline', 'background']);

/** The note of a clean-up. */
export const cleanUpNote = (kind: CleanUpKind, items: readonly string[], places?: readonly Rect[]): Note => ({
  kind: PUT_TOGETHER.has(kind) ? 'cleaned up' : 'left out',
  text: SENTENCES[kind][items.length === 1 ? 0 : 1],
  items,
  cleanUp: kind,
  ...(places && { places }),
});

/** Where an item stands, px; a text that is not measured yet by a guess of its size. */
export function placeOf(item: RawItem): Rect {
  if (item.kind !== 'text') return item.item.box;
  const [chunk] = item.chunks;
  const [run] = chunk?.runs ?? [];
  const size = run?.style.size ?? 16;
  const letters = chunk?.runs.reduce((sum, r) => sum + r.text.length, 0) ?? 0;
  return { x: chunk?.x ?? 0, y: (chunk?.y ?? 0) - size, width: letters * size * 0.5, height: size * 1.3 };
}

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

/** A fill and the outline that goes round it, drawn as two shapes, as one. */
function outlined(fill: RawItem, line: RawItem): RawShape | undefined {
  if (fill.kind !== 'shape' || line.kind !== 'shape' || fill.icon !== undefined || line.icon !== undefined)
    return undefined;
  const [a, b] = [fill.item, line.item];
  const stroke = b.paint.stroke;
  if (!a.paint.fill || a.paint.stroke || !stroke || b.paint.fill || a.groups.join() !== b.groups.join())
    return undefined;
  const wider = b.box.width - a.box.width;
  const same =
    Math.abs(centreX(a.box) - centreX(b.box)) < 0.26 &&
    Math.abs(centreY(a.box) - centreY(b.box)) < 0.26 &&
    Math.abs(wider - (b.box.height - a.box.height)) < 0.51 &&
    Math.abs(wider) <= stroke.width * 2 + 0.01;
  const round = (a.paint.radius === 'round') === (b.paint.radius === 'round');
  if (!same || !round) return undefined;
  const radius = b.paint.radius ?? a.paint.radius;
  return {
    ...fill,
    item: {
      ...a,
      box: union([a.box, b.box]),
      paint: { ...a.paint, stroke, ...(radius !== undefined && { radius }) },
    },
  };
}

/**
 * Cleans a raw drawing up as far as the designer has not taken it back: gives the items that remain, in paint order,
 * and what was done.
 */
export function cleanUp(
  raw: RawDrawing,
  decisions: DrawingDecisions,
): { items: RawItem[]; notes: Note[]; safeArea?: SafeArea } {
  const done = new Map<CleanUpKind, { ids: string[]; places: Rect[] }>();
  const keeps = (kind: CleanUpKind, id: string) =>
    decisions.keepKinds.includes(kind) || decisions.keep.includes(id);
  const record = (kind: CleanUpKind, id: string, place: Rect): void => {
    const entry = done.get(kind) ?? { ids: [], places: [] };
    entry.ids.push(id);
    entry.places.push(place);
    done.set(kind, entry);
  };
  const device = deviceItems(raw);
  const chrome = new Set(device?.items);
  let cleared = 0;
  const ignored: string[] = [];
  const ignoredPlaces: Rect[] = [];
  const items: RawItem[] = [];
  for (let i = 0; i < raw.items.length; i++) {
    const item = raw.items[i] as RawItem;
    const id = rawId(item);
    if (item.leftOut && !keeps(item.leftOut, id)) {
      record(item.leftOut, id, placeOf(item));
      continue;
    }
    if (chrome.has(item) && !keeps('device', id)) {
      record('device', id, placeOf(item));
      cleared++;
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
      record('icon', icon, union(pieces.map((p) => p.item.box)));
      if (decisions.ignore.includes(icon)) {
        ignored.push(icon);
        ignoredPlaces.push(union(pieces.map((p) => p.item.box)));
      } else items.push(joinPieces(icon, pieces));
      continue;
    }
    if (decisions.ignore.includes(id)) {
      ignored.push(id);
      ignoredPlaces.push(placeOf(item));
      continue;
    }
    const last = items.at(-1);
    if (last && isDouble(last, item) && !keeps('double', rawId(last))) {
      record('double', rawId(last), placeOf(last));
      items.pop();
    }
    const whole = last && outlined(last, item);
    if (whole && !keeps('outline', id)) {
      record('outline', id, placeOf(item));
      items[items.length - 1] = whole;
    } else items.push(item);
  }
  const notes = [...done].map(([kind, { ids, places }]) => cleanUpNote(kind, ids, places));
  if (ignored.length > 0)
    notes.push({ kind: 'left out', text: 'items left out by you', items: ignored, places: ignoredPlaces });
  return { items, notes, ...(device && cleared > 0 && { safeArea: device.safeArea }) };
}
