import { describe, expect, test } from 'vitest';
import { readFile } from 'node:fs/promises';
import { exportHtml, fontFaces, fontsReadme } from '@tinfold/core/handoff';
import type { Part } from '@tinfold/core/model';
import { faceFor, facesFor, type Face } from '@tinfold/core/text';
import { fontFile } from '../../../host/src/fonts.js';
import { testMeasurer } from '../support/fonts.js';
import { column, structure, style, text } from '../support/build.js';

const words = (said: string, family: string, more: object = {}): Part => {
  const part = text(said);
  if (part.content?.kind !== 'text') throw new Error('It is no text.');
  const own = { ...style(16), family, ...more };
  return { ...part, content: { ...part.content, runs: [{ text: said, style: own }] } };
};

const measurer = await testMeasurer();
for (const face of ['latin-ext', 'cyrillic'].map((subset) => ({
  ...faceFor({ family: 'Inter', weight: 400, italic: false }),
  subset: subset as Face['subset'],
})))
  measurer.add(face, await readFile(fontFile(face)));
const symbols = facesFor('⚓', { ...style(16), family: 'Inter' }).at(-1);
if (symbols) measurer.add(symbols, await readFile(fontFile(symbols)));

describe('the fonts of what leaves', () => {
  test('every face once, its file with all characters that are set in it', () => {
    const doc = structure(
      column({}, words('Fares', 'Inter'), words('Piers', 'Inter'), words('Fares', 'Inter', { weight: 600 })),
    );
    const faces = fontFaces(doc, measurer);
    expect(faces.map((f) => [f.name, f.weight, f.characters])).toEqual([
      ['Inter', 400, 'FPaeirs'],
      ['Inter', 600, 'Faers'],
    ]);
    const css = exportHtml(doc, faces)[1].text;
    expect(css.match(/@font-face/g)).toHaveLength(2);
    expect(css).toContain(`src: url('fonts/inter-latin-600-normal.woff2') format('woff2');`);
  });

  test('a face that stands in keeps the name that the texts ask for, at the size that it was measured at', () => {
    const doc = structure(column({}, words('Fares', `'Gull Grotesk', sans-serif`, { sizeAdjust: 1.0375 })));
    const faces = fontFaces(doc, measurer);
    const css = exportHtml(doc, faces)[1].text;
    expect(css).toContain(`font-family: 'Gull Grotesk';`);
    expect(css).toContain('size-adjust: 103.75%;');
    expect(fontsReadme(faces)).toContain(
      '“Gull Grotesk” 400 is not in this folder: Inter stands in for it, at 103.8 %',
    );
  });

  test('a list that names no family is set in the one that it was measured in', () => {
    const doc = structure(column({}, words('Fares', 'sans-serif')));
    const css = exportHtml(doc, fontFaces(doc, measurer))[1].text;
    expect(css).toContain(`font-family: 'Inter', sans-serif;`);
  });

  test('letters beyond latin come with the files that have them', () => {
    const doc = structure(column({}, words('Łódź', 'Inter'), words('Паром', 'Inter')));
    expect(fontFaces(doc, measurer).map((f) => [f.file.subset, f.characters])).toEqual([
      ['cyrillic', 'Памор'],
      ['latin', 'dó'],
      ['latin-ext', 'Łź'],
    ]);
  });

  test('a file behind a family serves the letters that it lacks, and no other', () => {
    const doc = structure(column({}, words('⚓ Low Tarn', 'Inter')));
    const faces = fontFaces(doc, measurer);
    expect(faces.map((f) => [f.name, f.file.family.family, f.isBehind])).toEqual([
      ['Inter', 'Inter', false],
      ['Inter', 'Noto Sans Symbols', true],
    ]);
    expect(exportHtml(doc, faces)[1].text).toContain('unicode-range: U+2693;');
    expect(fontsReadme(faces)).not.toContain('stands in');
  });

  test('a letter that no file has is held as wide as it was measured', () => {
    const doc = structure(column({}, words('Ahoy 🎉!', 'Inter')));
    const [{ text: html }] = exportHtml(doc, fontFaces(doc, measurer), measurer);
    expect(html).toContain('Ahoy <span class="unheld-wide">🎉</span>!');
  });
});
