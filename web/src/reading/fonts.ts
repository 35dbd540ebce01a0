import { facesOfRuns } from '@tinfold/core/drawing';
import { walk, type Structure } from '@tinfold/core/model';
import { faceKey, ShapedMeasurer, type Face } from '@tinfold/core/text';

/** What the extended latin files serve, so that the browser asks them for these letters alone. */
const EXTENDED_RANGE = 'U+0100-02FF, U+1E00-1EFF, U+20A0-20AB, U+20AD-20C0';

let shared: Promise<ShapedMeasurer> | undefined;
const loading = new Map<string, Promise<void>>();

/** The name under which a shipped family is shown, so that a font of the machine never stands in for it. */
export const shownFamily = (family: string): string => `tf ${family}`;

/** The font files that the texts of a structure need. */
export const facesOfStructure = (structure: Structure): Face[] =>
  facesOfRuns([...walk(structure.root)].flatMap((p) => (p.content?.kind === 'text' ? p.content.runs : [])));

async function createMeasurer(): Promise<ShapedMeasurer> {
  // A static import would hold a worker's first messages back until the WebAssembly is there, and lose them.
  const hb = await import('harfbuzzjs');
  return new ShapedMeasurer(hb);
}

async function loadFace(measurer: ShapedMeasurer, face: Face): Promise<void> {
  const response = await fetch(`/fonts/${faceKey(face)}.woff`);
  if (!response.ok)
    throw new Error(`The font ${face.family.family} ${face.weight} could not be loaded: reload the page.`);
  const bytes = new Uint8Array(await response.arrayBuffer());
  measurer.add(face, bytes);
  if (typeof document === 'undefined') return;
  const shown = new FontFace(shownFamily(face.family.family), bytes, {
    weight: String(face.weight),
    style: face.italic ? 'italic' : 'normal',
    ...(face.subset === 'latin-ext' && { unicodeRange: EXTENDED_RANGE }),
  });
  document.fonts.add(await shown.load());
}

/** The measurer with these faces loaded, in a page also for showing them. */
export async function loadMeasurer(faces: readonly Face[]): Promise<ShapedMeasurer> {
  const measurer = await (shared ??= createMeasurer());
  await Promise.all(
    faces.map((face) => {
      const key = faceKey(face);
      let promise = loading.get(key);
      if (!promise) {
        promise = loadFace(measurer, face);
        loading.set(key, promise);
        promise.catch(() => loading.delete(key));
      }
      return promise;
    }),
  );
  return measurer;
}
