import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { rulePictures } from '../scripts/rulePictures/all.js';

test('the pictures on the page of rules are those that the engine draws today, and each rule changes something', async () => {
  for (const [word, svg] of await rulePictures()) {
    expect(readFileSync(new URL(`../docs/rules/${word}.svg`, import.meta.url), 'utf8'), word).toBe(svg);
    const [, before = '', after = ''] = svg.split(/<g clip-path="url\(#[ab]\)">/);
    const shapes = (panel: string) => panel.match(/<rect x[^>]*>/g);
    // What hangs by its pins does so in any flow: the picture of `free` shows where it hangs.
    if (word !== 'free') expect(shapes(after), word).not.toEqual(shapes(before));
  }
});
