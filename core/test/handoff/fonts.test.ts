import { describe, expect, test } from 'vitest';
import { exportHtml, fontFaces, fontsReadme } from '@tinfold/core/handoff';
import type { Part } from '@tinfold/core/model';
import { column, structure, style, text } from '../support/build.js';

const words = (said: string, family: string, more: object = {}): Part => {
  const part = text(said);
  if (part.content?.kind !== 'text') throw new Error('It is no text.');
  const own = { ...style(16), family, ...more };
  return { ...part, content: { ...part.content, runs: [{ text: said, style: own }] } };
};

describe('the fonts of what leaves', () => {
  test('every face once, its file with all characters that are set in it', () => {
    const doc = structure(
      column({}, words('Fares', 'Inter'), words('Piers', 'Inter'), words('Fares', 'Inter', { weight: 600 })),
    );
    const faces = fontFaces(doc);
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
    const faces = fontFaces(doc);
    const css = exportHtml(doc, faces)[1].text;
    expect(css).toContain(`font-family: 'Gull Grotesk';`);
    expect(css).toContain('size-adjust: 103.75%;');
    expect(fontsReadme(faces)).toContain(
      '“Gull Grotesk” 400 is not in this folder: Inter stands in for it, at 103.8 %',
    );
  });

  test('a list that names no family is set in the one that it was measured in', () => {
    const doc = structure(column({}, words('Fares', 'sans-serif')));
    const css = exportHtml(doc, fontFaces(doc))[1].text;
    expect(css).toContain(`font-family: 'Inter', sans-serif;`);
  });

  test('letters beyond latin come with the files that have them', () => {
    const faces = fontFaces(structure(column({}, words('Łódź', 'Inter'), words('Паром', 'Inter'))));
    expect(faces.map((f) => f.file.subset)).toEqual(
      expect.arrayContaining(['latin', 'latin-ext', 'cyrillic']),
    );
  });
});
