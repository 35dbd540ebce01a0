import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import * as hb from 'harfbuzzjs';
import { faceKey, ShapedMeasurer, type Face } from '@tinfold/core/text';

const require = createRequire(import.meta.url);

/** The path of a shipped font file. */
export const fontFile = (face: Face): string =>
  path.join(
    path.dirname(require.resolve(`@fontsource/${face.family.slug}/package.json`)),
    'files',
    `${faceKey(face)}.woff`,
  );

/** A measurer that holds the files of these faces. */
export async function loadMeasurer(faces: readonly Face[]): Promise<ShapedMeasurer> {
  const measurer = new ShapedMeasurer(hb);
  for (const face of faces) if (!measurer.has(face)) measurer.add(face, await readFile(fontFile(face)));
  return measurer;
}
