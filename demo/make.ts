/** Draws the demo screens and writes them as SVG files beside this script. */
import { writeFile } from 'node:fs/promises';
import { faceFor } from '@tinfold/core/text';
import { loadMeasurer } from '../host/src/fonts.js';
import { boardingPass } from './boardingPass.js';
import { departures, departuresPhone } from './departures.js';
import { exportNested, exportStyled } from './exporters.js';

const faces = ['Barlow', 'Inter'].flatMap((family) =>
  [400, 500, 600, 700].map((weight) => faceFor({ family, weight, italic: false })),
);
const measurer = await loadMeasurer(faces);
const here = new URL('.', import.meta.url);
await writeFile(new URL('departures-1280.svg', here), exportNested(departures(measurer)));
await writeFile(new URL('departures-390.svg', here), exportStyled(departuresPhone(measurer)));
await writeFile(new URL('boarding-pass-390.svg', here), exportStyled(boardingPass(measurer)));
