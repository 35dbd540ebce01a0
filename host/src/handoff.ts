import { exportAs, fontFaces, WITH_FONTS, type Format, type OutputFile } from '@tinfold/core/handoff';
import { Engine } from '@tinfold/core/layout';
import type { Structure } from '@tinfold/core/model';
import { ownFamilies, type ShapedMeasurer, type OwnFont, type TextMeasurer } from '@tinfold/core/text';
import { fontFiles } from './fontFiles.js';
import { facesOfStructure, loadMeasurer, type OwnFile } from './fonts.js';

/** A measurer for the words of a structure, in fonts that the user added, too. */
export function measurerFor(
  structure: Structure,
  own: readonly OwnFont[],
  ownFile: OwnFile,
): Promise<ShapedMeasurer> {
  const families = ownFamilies(own);
  return loadMeasurer(facesOfStructure(structure, families), families, ownFile);
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
  const fonts = fontFaces(structure, measurer);
  const tools = { engine: new Engine(measurer), measurer, fonts, widths };
  const needsFonts = formats.some((f) => WITH_FONTS.has(f));
  const faces = needsFonts ? await fontFiles(fonts, ownFile) : [];
  return formats.flatMap((format) => {
    const files = [...exportAs(format, structure, tools), ...(WITH_FONTS.has(format) ? faces : [])];
    return formats.length === 1 ? files : files.map((f) => ({ ...f, name: `${format}/${f.name}` }));
  });
}
