import { writeFile } from 'node:fs/promises';
import { rulePictures } from './rulePictures/all.js';

for (const [word, svg] of await rulePictures())
  await writeFile(new URL(`../docs/rules/${word}.svg`, import.meta.url), svg);
