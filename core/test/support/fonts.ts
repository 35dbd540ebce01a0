import { readFile } from 'node:fs/promises';
import { openDrawing, NO_DECISIONS, type Drawing, type DrawingDecisions } from '@tinfold/core/drawing';
import { faceFor, type ShapedMeasurer } from '@tinfold/core/text';
import { fontFile, loadMeasurer } from '../../../host/src/fonts.js';

const FAMILIES = [
  'Inter',
  'Barlow',
  'Open Sans',
  'Lato',
  'Roboto',
  'Work Sans',
  'Noto Sans',
  'Source Serif 4',
];

let loaded: Promise<ShapedMeasurer> | undefined;

/** The shipped fonts that tests write in, regular and bold. */
export const testMeasurer = (): Promise<ShapedMeasurer> =>
  (loaded ??= loadMeasurer(
    FAMILIES.flatMap((family) =>
      [400, 500, 600, 700].map((weight) => faceFor({ family, weight, italic: false })),
    ),
  ));

/** Opens and measures a drawing of any kind, loading what fonts it needs. */
export async function openWithFonts(
  source: string,
  decisions: Partial<DrawingDecisions> = {},
): Promise<Drawing> {
  const opened = openDrawing(source, 'Test');
  const measurer = await testMeasurer();
  for (const face of opened.faces())
    if (!measurer.has(face)) measurer.add(face, await readFile(fontFile(face)));
  return opened.measure(measurer, { ...NO_DECISIONS, ...decisions });
}
