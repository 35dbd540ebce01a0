import { faceFor, type ShapedMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../../../cli/src/fonts.js';

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
