import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import * as hb from 'harfbuzzjs';
import { textRunsIn, type Structure } from '@tinfold/core/model';
import { faceKey, facesOfRuns, ShapedMeasurer, type Face, type Family } from '@tinfold/core/text';

const require = createRequire(import.meta.url);

/** The path of a shipped font file. */
export const fontFile = (face: Face): string =>
  path.join(
    path.dirname(require.resolve(`@fontsource/${face.family.slug}/package.json`)),
    'files',
    `${faceKey(face)}.woff`,
  );

/** The bytes of a face that the user added; undefined where they are gone. */
export type OwnFile = (face: Face) => Promise<Uint8Array | undefined>;

/** Whether a face is of a font that the user added: those are not cut into subsets. */
export const isOwn = (face: Face): boolean => face.subset === 'whole';

/** The bytes of a face: of a shipped file, or of one that the user added. */
export const faceBytes = async (face: Face, ownFile?: OwnFile): Promise<Uint8Array | undefined> =>
  isOwn(face) ? ownFile?.(face) : readFile(fontFile(face));

/** The font files that the words of a structure need. */
export const facesOfStructure = (structure: Structure, own: readonly Family[] = []): Face[] =>
  facesOfRuns(textRunsIn(structure.root), own);

/** A measurer that holds the files of these faces, those of the user's own families too. */
export async function loadMeasurer(
  faces: readonly Face[],
  own: readonly Family[] = [],
  ownFile?: OwnFile,
): Promise<ShapedMeasurer> {
  const measurer = new ShapedMeasurer(hb, own);
  for (const face of faces) {
    const bytes = measurer.has(face) ? undefined : await faceBytes(face, ownFile);
    if (bytes) measurer.add(face, bytes);
  }
  return measurer;
}
