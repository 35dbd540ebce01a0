/** Draws the demo screens and writes them as SVG files beside this script. */
import { writeFile } from 'node:fs/promises';
import { demoMeasurer, DIALECTS, DRAWINGS } from './screens.js';

const measurer = await demoMeasurer();
for (const { file, dialect, draw } of DRAWINGS)
  await writeFile(new URL(file, import.meta.url), DIALECTS[dialect](draw(measurer)));
