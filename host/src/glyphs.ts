import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import * as hb from 'harfbuzzjs';
import { glyphsOfFont, GlyphTable, glyphTable, type GlyphStyle } from '@tinfold/core/drawing';
import { SHIPPED, type Face } from '@tinfold/core/text';
import { fontFile } from './fonts.js';

const require = createRequire(import.meta.url);
/** Counts up when a table is made otherwise. */
const FORMAT = 5;

/** What a table is made from, in its name: other fonts or another format make another file. */
function stamp(): string {
  const versions = SHIPPED.map(
    ({ slug }) => (require(`@fontsource/${slug}/package.json`) as { version: string }).version,
  );
  return createHash('sha256')
    .update(JSON.stringify([FORMAT, SHIPPED, versions]))
    .digest('hex')
    .slice(0, 12);
}

const FOLDER = fileURLToPath(new URL('../glyphs', import.meta.url));

function facesOfStyle(family: (typeof SHIPPED)[number], weight: number, italic: boolean): Face[] {
  return (family.subsets === 'whole' ? [] : family.subsets).map((subset) => ({
    family,
    weight,
    italic,
    subset,
  }));
}

function madeTable(): GlyphTable {
  const styles = SHIPPED.flatMap((family) =>
    [false, true].flatMap((italic) =>
      (italic ? family.italics : family.weights).map((weight) => {
        const files = facesOfStyle(family, weight, italic).map(fontFile).filter(existsSync);
        const fonts = files.map((file) => glyphsOfFont(hb, readFileSync(file)));
        const style: GlyphStyle = { family: family.family, weight, italic, space: fonts[0]?.space ?? 0 };
        return { style, glyphs: fonts.flatMap((f) => f.glyphs) };
      }),
    ),
  );
  return glyphTable(styles);
}

/**
 * The file with the glyphs of the shipped fonts, by which words that are outlines are read. It is made when packages are
 * installed, and here where it is missing, which takes some seconds.
 */
export function glyphFile(): string {
  const file = path.join(FOLDER, `shipped-${stamp()}.bin`);
  if (existsSync(file)) return file;
  rmSync(FOLDER, { recursive: true, force: true });
  mkdirSync(FOLDER, { recursive: true });
  const half = `${file}.${process.pid}`;
  writeFileSync(half, madeTable().toBytes());
  renameSync(half, file);
  return file;
}

let table: GlyphTable | undefined;

/** The glyphs of the shipped fonts. */
export const shippedGlyphs = (): GlyphTable => (table ??= GlyphTable.fromBytes(readFileSync(glyphFile())));
