import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import subsetFont from 'subset-font';
import { fontPath, fontsReadme, type FontFace } from '@tinfold/core/handoff';
import { faceKey, type Face } from '@tinfold/core/text';
import { faceBytes, isOwn, type OwnFile } from './fonts.js';

const require = createRequire(import.meta.url);

/** A file to write, with its path in the folder that leaves. */
export interface FontOutput {
  readonly name: string;
  readonly text: string | Uint8Array;
}

/** Letters that a developer may type into the page besides those that it shows. */
const BASIC_LATIN = Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)).join('');

const licenceOf = ({ family }: Face): string =>
  path.join(path.dirname(require.resolve(`@fontsource/${family.slug}/package.json`)), 'LICENSE');

/**
 * The font files of some faces, cut down to what the screen needs, with their licences and a page about them. Fonts that the user
 * added come from `ownFile`; one that it does not have is left out.
 */
export async function fontFiles(faces: readonly FontFace[], ownFile?: OwnFile): Promise<FontOutput[]> {
  if (faces.length === 0) return [];
  const byFile = new Map(faces.map((f) => [faceKey(f.file), f]));
  const families = new Map(faces.filter((f) => !isOwn(f.file)).map((f) => [f.file.family.slug, f.file]));
  const fonts = [...byFile.values()].map(async ({ file, characters }): Promise<FontOutput[]> => {
    const bytes = await faceBytes(file, ownFile);
    if (!bytes) return [];
    const text = await subsetFont(Buffer.from(bytes), characters + BASIC_LATIN, { targetFormat: 'woff2' });
    return [{ name: fontPath(file), text }];
  });
  const licences = [...families].map(async ([slug, file]): Promise<FontOutput> => ({
    name: `fonts/${slug}-licence.txt`,
    text: await readFile(licenceOf(file), 'utf8'),
  }));
  return [
    ...(await Promise.all(fonts)).flat(),
    ...(await Promise.all(licences)),
    { name: 'README.md', text: fontsReadme(faces) },
  ];
}
