import type { Face, Family } from './catalogue.js';
import { toSfnt } from './sfnt.js';
import type { Shaping } from './shaper.js';

/** A font file that the user added to a project. */
export interface OwnFont {
  readonly id: string;
  readonly family: string;
  readonly weight: number;
  readonly italic: boolean;
}

const genericOf = (family: string): Family['generic'] =>
  /mono|code/i.test(family) ? 'mono' : /serif/i.test(family) && !/sans/i.test(family) ? 'serif' : 'sans';

const slugOf = (family: string): string =>
  `own-${Array.from(family.toLowerCase(), (ch) => (/[a-z0-9]/.test(ch) ? ch : `_${ch.codePointAt(0)?.toString(36)}`)).join('')}`;

/** The families that a user's files make up. */
export function ownFamilies(fonts: readonly OwnFont[]): Family[] {
  const names = [...new Set(fonts.map((f) => f.family))];
  return names.map((family) => {
    const weights = (italic: boolean) =>
      [...new Set(fonts.filter((f) => f.family === family && f.italic === italic).map((f) => f.weight))].sort(
        (a, b) => a - b,
      );
    return {
      family,
      slug: slugOf(family),
      weights: weights(false),
      italics: weights(true),
      generic: genericOf(family),
      subsets: 'whole',
    };
  });
}

/** The user's file for a face of one of {@link ownFamilies}; the one added last counts. */
export const ownFontFor = (fonts: readonly OwnFont[], face: Face): OwnFont | undefined =>
  fonts.findLast(
    (f) => f.family === face.family.family && f.weight === face.weight && f.italic === face.italic,
  );

/** Ids in the `name` table (OpenType 1.9 `name`): the family as a designer knows it, else the older four-style one. */
const TYPOGRAPHIC_FAMILY = 16;
const FAMILY = 1;

/**
 * What a font file says of itself: family, weight (1–1000) and slant, from its `name` and `OS/2` tables. Takes raw
 * sfnt or WOFF 1; throws a RangeError with a sentence for anything else.
 */
export function describeFont(hb: Shaping, file: Uint8Array): Omit<OwnFont, 'id'> {
  const refuse = (): never => {
    throw new RangeError('The file is not a font that can be read: choose a woff2, woff, ttf or otf file.');
  };
  let sfnt: Uint8Array;
  try {
    sfnt = toSfnt(file);
  } catch {
    return refuse();
  }
  const face = new hb.Face(new hb.Blob(sfnt));
  if (face.collectUnicodes().length === 0) return refuse();
  const name = (id: number) => {
    const entry = face.listNames().find((n) => n.nameId === id);
    return entry ? face.getName(id, entry.language).trim() : '';
  };
  const family = name(TYPOGRAPHIC_FAMILY) || name(FAMILY);
  if (family === '') throw new RangeError('The font file has no family name: export it again with one.');
  const os2 = face.referenceTable('OS/2');
  const view = os2 && new DataView(os2.buffer, os2.byteOffset, os2.byteLength);
  const weight = view && view.byteLength >= 6 ? view.getUint16(4) : 400;
  const selection = view && view.byteLength >= 64 ? view.getUint16(62) : 0;
  return {
    family: family.slice(0, 120),
    weight: Math.min(1000, Math.max(1, weight)),
    // Bits 0 and 9 of fsSelection are italic and oblique.
    italic: (selection & 0b10_0000_0001) !== 0,
  };
}
