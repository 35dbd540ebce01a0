import { GlyphTable, tableOfFonts } from '@tinfold/core/drawing';
import { textRunsIn, type Structure } from '@tinfold/core/model';
import {
  faceKey,
  facesOfRuns,
  ownFamilies,
  ownFontFor,
  SCRIPT_FALLBACKS,
  ShapedMeasurer,
  UNICODE_RANGES,
  type Face,
  type Family,
  type OwnFont,
} from '@tinfold/core/text';

const measurers = new Map<string, Promise<ShapedMeasurer>>();
const loaded = new WeakMap<ShapedMeasurer, Map<string, Promise<void>>>();
const files = new Map<string, Promise<Uint8Array<ArrayBuffer>>>();
const shown = new Set<string>();

/** The name under which a family is shown, so that a font of the machine never stands in for it. */
export const shownFamily = (family: Family): string => `tf ${family.slug}`;

/** What serves the scripts that a family lacks. */
const SCRIPTS = SCRIPT_FALLBACKS.map((f) => `"${shownFamily(f)}"`).join(', ');

/** A family with what stands in for what it lacks, as CSS `font-family`. */
export const fontFamilies = (family: Family): string => `"${shownFamily(family)}", ${SCRIPTS}, sans-serif`;

/** The font files that the texts of a structure need. */
export const facesOfStructure = (structure: Structure, own: readonly OwnFont[]): Face[] =>
  facesOfRuns(textRunsIn(structure.root), ownFamilies(own));

async function createMeasurer(own: readonly OwnFont[]): Promise<ShapedMeasurer> {
  // A static import would hold a worker's first messages back until the WebAssembly is there, and lose them.
  const hb = await import('harfbuzzjs');
  return new ShapedMeasurer(hb, ownFamilies(own));
}

/** Where the file of a font that was added to the project is served; through a link it is served with the link. */
const fontAddress = (font: OwnFont & { readonly address?: string }): string =>
  font.address ?? `/api/fonts/${font.id}/file`;

/** Where the file of a face is served; `own` are the fonts added to the project. */
export function faceAddress(face: Face, own: readonly OwnFont[]): string {
  const font = face.subset === 'whole' ? ownFontFor(own, face) : undefined;
  return font ? fontAddress(font) : `/fonts/${faceKey(face)}.woff`;
}

async function fetchFile(url: string, name: string): Promise<Uint8Array<ArrayBuffer>> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`The font ${name} could not be loaded: reload the page.`);
  return new Uint8Array(await response.arrayBuffer());
}

function fileOf(url: string, name: string): Promise<Uint8Array<ArrayBuffer>> {
  let file = files.get(url);
  if (!file) {
    file = fetchFile(url, name);
    files.set(url, file);
    file.catch(() => files.delete(url));
  }
  return file;
}

async function loadFace(measurer: ShapedMeasurer, face: Face, own: readonly OwnFont[]): Promise<void> {
  const url = faceAddress(face, own);
  const bytes = await fileOf(url, `${face.family.family} ${face.weight}`);
  measurer.add(face, bytes);
  if (typeof document === 'undefined' || shown.has(url)) return;
  shown.add(url);
  const range = face.subset === 'whole' || face.subset === 'latin' ? undefined : UNICODE_RANGES[face.subset];
  const rule = new FontFace(shownFamily(face.family), bytes, {
    weight: String(face.weight),
    style: face.italic ? 'italic' : 'normal',
    // The browser asks each file for its part of the letters alone.
    ...(range !== undefined && { unicodeRange: range }),
  });
  document.fonts.add(await rule.load());
}

/** The measurer with these faces loaded, in a page also for showing them. `own` are the fonts added to the project. */
export async function loadMeasurer(
  faces: readonly Face[],
  own: readonly OwnFont[] = [],
): Promise<ShapedMeasurer> {
  const key = own.map((f) => f.id).join();
  let creating = measurers.get(key);
  if (!creating) measurers.set(key, (creating = createMeasurer(own)));
  const measurer = await creating;
  const loading = loaded.get(measurer) ?? new Map<string, Promise<void>>();
  loaded.set(measurer, loading);
  await Promise.all(
    faces.map((face) => {
      const name = faceKey(face);
      let promise = loading.get(name);
      if (!promise) {
        promise = loadFace(measurer, face, own);
        loading.set(name, promise);
        promise.catch(() => loading.delete(name));
      }
      return promise;
    }),
  );
  return measurer;
}

let table: Promise<GlyphTable> | undefined;

/** The glyphs of the shipped fonts, by which words that are outlines are read. */
export function shippedGlyphs(): Promise<GlyphTable> {
  table ??= fetchFile('/fonts/glyphs.bin', 'table').then((bytes) => GlyphTable.fromBytes(bytes));
  table.catch(() => (table = undefined));
  return table;
}

const ownTables = new Map<string, Promise<GlyphTable>>();

/** The glyphs of the fonts that were added to the project. */
export function ownGlyphs(own: readonly OwnFont[]): Promise<GlyphTable> {
  const key = own.map((f) => f.id).join();
  let made = ownTables.get(key);
  if (!made) {
    made = (async () => {
      const hb = await import('harfbuzzjs');
      const files = own.map(async (font) => ({
        ...font,
        bytes: await fileOf(`/api/fonts/${font.id}/file`, font.family),
      }));
      return tableOfFonts(hb, await Promise.all(files));
    })();
    ownTables.set(key, made);
    made.catch(() => ownTables.delete(key));
  }
  return made;
}
