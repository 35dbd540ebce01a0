import { readFile } from 'node:fs/promises';
import * as hb from 'harfbuzzjs';
import { describe, expect, test } from 'vitest';
import {
  describeFont,
  faceFor,
  faceKey,
  facesFor,
  ownFamilies,
  ownFontFor,
  resolveFamily,
  ShapedMeasurer,
} from '@tinfold/core/text';
import { fontFile, loadMeasurer } from '../../../host/src/fonts.js';

const style = (family: string, weight = 400) => ({
  family,
  size: 20,
  weight,
  italic: false,
  letterSpacing: 0,
  colour: '#000000',
});
const keys = (text: string, family: string) => facesFor(text, style(family)).map(faceKey);

describe('characters beyond latin', () => {
  test.each<[string, string, string[]]>([
    ['Nether Quay – £12.50', 'Inter', ['inter-latin-400-normal']],
    [
      'Łódź',
      'Lato',
      ['lato-latin-400-normal', 'lato-latin-ext-400-normal', 'noto-sans-latin-ext-400-normal'],
    ],
    [
      'Паром',
      'Inter',
      ['inter-latin-400-normal', 'inter-cyrillic-400-normal', 'noto-sans-cyrillic-400-normal'],
    ],
    ['Паром', 'Lato', ['lato-latin-400-normal', 'noto-sans-cyrillic-400-normal']],
    ['שלום', 'Inter', ['inter-latin-400-normal', 'noto-sans-hebrew-hebrew-400-normal']],
    ['مرحبا', 'Inter', ['inter-latin-400-normal', 'noto-sans-arabic-arabic-400-normal']],
    ['Go →', 'Inter', ['inter-latin-400-normal', 'noto-sans-symbols-symbols-400-normal']],
  ])('%s in %s asks for its own files, then for those of the script', (text, family, files) => {
    expect(keys(text, family)).toEqual(files);
  });

  test.each(['Паром', 'שלום', 'مرحبا', 'สวัสดี', 'Go →'])('%s is measured from a file', async (text) => {
    const m = await loadMeasurer(facesFor(text, style('Lato')));
    expect(m.uncovered(text, style('Lato'))).toBe('');
    expect(m.width(text, style('Lato'))).toBeGreaterThan(20);
  });

  test('what no font has is told and estimated', async () => {
    const m = await loadMeasurer(facesFor('渡船 ok', style('Inter')));
    expect(m.uncovered('渡船 ok', style('Inter'))).toBe('渡船');
    // Characters of East Asia are as wide as they are high.
    expect(m.width('渡船', style('Inter'))).toBe(40);
  });
});

describe("a user's own font", () => {
  const barlow = faceFor(style('Barlow', 600));
  const OWN = [
    { id: 'one', family: 'Ferry Sans', weight: 600, italic: false },
    { id: 'two', family: 'Ferry Sans', weight: 400, italic: true },
  ];
  const families = ownFamilies(OWN);

  test('goes before the shipped ones and is the very one', () => {
    expect(resolveFamily('"Ferry Sans", Inter', families)).toMatchObject({
      exact: true,
      family: { family: 'Ferry Sans' },
    });
    expect(resolveFamily('"Ferry Sans", Inter')).toMatchObject({ exact: false, family: { family: 'Inter' } });
  });

  test('gives the nearest of its files', () => {
    const upright = faceFor(style('Ferry Sans', 400), families);
    expect(ownFontFor(OWN, upright)?.id).toBe('one');
    expect(ownFontFor(OWN, faceFor({ ...style('Ferry Sans'), italic: true }, families))?.id).toBe('two');
  });

  test('is measured with, and what it lacks comes from the shipped ones', async () => {
    const file = await readFile(fontFile(barlow));
    const plain = await loadMeasurer([barlow]);
    const m = new ShapedMeasurer(hb, families);
    m.add(faceFor(style('Ferry Sans', 600), families), file);
    for (const face of facesFor('Паром', style('Ferry Sans', 600), families).slice(1))
      m.add(face, await readFile(fontFile(face)));
    expect(m.width('Nether Quay', style('Ferry Sans', 600))).toBe(
      plain.width('Nether Quay', style('Barlow', 600)),
    );
    expect(m.uncovered('Паром', style('Ferry Sans', 600))).toBe('');
  });

  test('a file tells its family, weight and slant', async () => {
    const face = faceFor({ family: 'Barlow', weight: 600, italic: true });
    const about = describeFont(hb, await readFile(fontFile(face)));
    expect(about).toEqual({ family: expect.stringContaining('Barlow') as string, weight: 600, italic: true });
  });

  test.each([
    new Uint8Array(0),
    new Uint8Array(500),
    new TextEncoder().encode('wOFFnot a font at all, only words'),
  ])('what is no font is refused with a sentence', (bytes) => {
    expect(() => describeFont(hb, bytes)).toThrow(/^The file is not a font that can be read/);
  });
});
