import * as hb from 'harfbuzzjs';
import { readFile } from 'node:fs/promises';
import { exportAs, fontFaces, WITH_FONTS, type Format, type OutputFile } from '@tinfold/core/handoff';
import { Engine } from '@tinfold/core/layout';
import { textRunsIn, type Structure } from '@tinfold/core/model';
import {
  facesOfRuns,
  ownFamilies,
  ShapedMeasurer,
  type OwnFont,
  type TextMeasurer,
} from '@tinfold/core/text';
import { fontFiles, type OwnFile } from './fontFiles.js';
import { fontFile } from './fonts.js';

/** A measurer for the words of a structure, in fonts that the user added, too. */
export async function measurerFor(
  structure: Structure,
  own: readonly OwnFont[],
  ownFile: OwnFile,
): Promise<ShapedMeasurer> {
  const families = ownFamilies(own);
  const measurer = new ShapedMeasurer(hb, families);
  for (const face of facesOfRuns(textRunsIn(structure.root), families)) {
    const bytes = face.subset === 'whole' ? await ownFile(face) : await readFile(fontFile(face));
    if (bytes && !measurer.has(face)) measurer.add(face, bytes);
  }
  return measurer;
}

/**
 * All files of a screen in some formats, with their fonts: one alone by themselves, several in a folder for each. `widths` are
 * those of the drawings, px; `ownFile` gives the fonts that the user added.
 */
export async function handoffFiles(
  structure: Structure,
  measurer: TextMeasurer,
  formats: readonly Format[],
  widths: readonly number[],
  ownFile?: OwnFile,
): Promise<OutputFile[]> {
  const fonts = fontFaces(structure, measurer.own);
  const tools = { engine: new Engine(measurer), measurer, fonts, widths };
  const needsFonts = formats.some((f) => WITH_FONTS.has(f));
  const faces = needsFonts ? await fontFiles(fonts, ownFile) : [];
  return formats.flatMap((format) => {
    const files = [...exportAs(format, structure, tools), ...(WITH_FONTS.has(format) ? faces : [])];
    return formats.length === 1 ? files : files.map((f) => ({ ...f, name: `${format}/${f.name}` }));
  });
}
