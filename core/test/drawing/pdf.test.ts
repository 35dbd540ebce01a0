import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import {
  DrawingError,
  isPdf,
  NO_DECISIONS,
  openDrawing,
  pdfToSvg,
  type PdfLibrary,
} from '@tinfold/core/drawing';
import { plainText, type Rect } from '@tinfold/core/model';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { fontNamed } from '../../src/drawing/pdf/fontName.js';
import { wordsIn, type SetGlyph } from '../../src/drawing/pdf/words.js';

const library = (await import('pdfjs-dist/legacy/build/pdf.mjs')) as unknown as PdfLibrary;
const bytes = (text: string) => new Uint8Array(Buffer.from(text, 'latin1'));

/** A PDF by its objects, the first its catalogue (ISO 32000-1 §7.5). */
function pdf(objects: readonly string[], trailer = ''): Uint8Array {
  let out = '%PDF-1.7\n';
  const offsets = objects.map((body, i) => {
    const at = out.length;
    out += `${i + 1} 0 obj\n${body}\nendobj\n`;
    return at;
  });
  const start = out.length;
  out += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n`;
  out += offsets.map((o) => `${String(o).padStart(10, '0')} 00000 n \n`).join('');
  out += `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R ${trailer} >>\nstartxref\n${start}\n%%EOF`;
  return bytes(out);
}
const stream = (content: string) => `<< /Length ${content.length} >>\nstream\n${content}\nendstream`;
const page = (content: string, width = 300, height = 225): Uint8Array =>
  pdf([
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 ${width} ${height}] /Contents 4 0 R /Resources << /Font << /F 5 0 R >> >> >>`,
    stream(content),
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ]);
/** Boxes to a hundredth of a px. */
const placed = (boxes: readonly Rect[]) =>
  boxes.map((b) => [b.x, b.y, b.width, b.height].map((n) => Math.round(n * 100) / 100));
const read = async (file: Uint8Array) => {
  const opened = openDrawing(await pdfToSvg(file, library), 'x');
  return opened.measure(await loadMeasurer(opened.faces()), NO_DECISIONS);
};

describe('a page of a PDF', () => {
  test('is read in px from its upper left corner: boxes, strokes and opacity', async () => {
    const drawing = await read(page('0 0.5 0 rg 30 150 60 45 re f 1 0 0 RG 3 w 120.75 30.75 90 60 re S'));
    expect([drawing.width, drawing.height]).toEqual([400, 300]);
    expect(drawing.items.map((i) => i.kind)).toEqual(['shape', 'shape']);
    expect(placed(drawing.items.map((i) => i.box))).toEqual([
      [40, 40, 80, 60],
      [159, 177, 124, 84],
    ]);
    expect(drawing.items[0]?.paint.fill).toEqual({ kind: 'solid', colour: '#008000' });
    expect(drawing.items[1]?.paint.stroke?.colour).toBe('#ff0000');
    expect(drawing.items[1]?.paint.stroke?.width).toBeCloseTo(4, 6);
  });

  test('what is clipped and transformed stands where it is seen', async () => {
    const drawing = await read(
      page('q 30 30 60 60 re W n 0.2 g 0 0 300 225 re f Q q 2 0 0 2 60 60 cm 30 30 15 15 re f Q'),
    );
    expect(placed(drawing.items.map((i) => i.box))).toEqual([
      [40, 180, 80, 80],
      [160, 100, 40, 40],
    ]);
  });

  test('its words are texts at their baselines', async () => {
    const drawing = await read(page('BT /F 12 Tf 30 180 Td (Next boat) Tj 0 -18 Td (to Low Tarn) Tj ET'));
    const texts = drawing.items.flatMap((i) =>
      i.kind === 'text' ? [[plainText(i.content), i.lines.map((l) => [l.x, l.baseline])]] : [],
    );
    expect(texts).toEqual([
      ['Next boat', [[40, 60]]],
      ['to Low Tarn', [[40, 84]]],
    ]);
  });

  test('of several, each is a screen of its own', async () => {
    const kids = Array.from({ length: 3 }, (_, i) => `${i * 2 + 3} 0 R`).join(' ');
    const body = stream('0.9 g 20 20 300 60 re f 0 g 30 200 40 40 re f 90 200 40 40 re f');
    const file = pdf([
      '<< /Type /Catalog /Pages 2 0 R >>',
      `<< /Type /Pages /Kids [${kids}] /Count 3 >>`,
      ...Array.from({ length: 3 }, (_, i) => [
        `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 360 600] /Contents ${i * 2 + 4} 0 R >>`,
        body,
      ]).flat(),
    ]);
    const frames = openDrawing(await pdfToSvg(file, library), 'x').frames;
    expect(frames.map((f) => [f.name, f.box.width])).toEqual([
      ['Page 1', 480],
      ['Page 2', 480],
      ['Page 3', 480],
    ]);
  });

  test('the boarding pass says what the drawing says', async () => {
    const file = readFileSync(new URL('../../../demo/exported/boarding-pass-390.pdf', import.meta.url));
    expect(isPdf(file)).toBe(true);
    const says = (d: Awaited<ReturnType<typeof read>>) =>
      d.items.flatMap((i) => (i.kind === 'text' ? plainText(i.content).split(/\s+/) : [])).sort();
    const drawn = openDrawing(
      readFileSync(new URL('../../../demo/boarding-pass-390.svg', import.meta.url), 'utf8'),
      'x',
    );
    const was = drawn.measure(await loadMeasurer(drawn.faces()), NO_DECISIONS);
    const words = says(was);
    expect(says(await read(new Uint8Array(file)))).toEqual(expect.arrayContaining(words));
    expect(words.length).toBeGreaterThan(30);
  });
});

describe('a hostile PDF', () => {
  const sentence = async (file: Uint8Array) => {
    await expect(pdfToSvg(file, library)).rejects.toThrow(DrawingError);
    await expect(pdfToSvg(file, library)).rejects.toThrow(/^[A-Z].*\.$/s);
  };

  test('that is no PDF, cut off or without pages ends in a sentence', async () => {
    await sentence(bytes('%PDF-1.7\n'));
    await sentence(page('0 0 9 9 re f').slice(0, 120));
    await sentence(pdf(['<< /Type /Catalog /Pages 2 0 R >>', '<< /Type /Pages /Kids [] /Count 0 >>']));
  });

  test('that is locked asks for one without a password', async () => {
    const locked = pdf(
      ['<< /Type /Catalog /Pages 2 0 R >>', '<< /Type /Pages /Kids [] /Count 0 >>'],
      `/Encrypt << /Filter /Standard /V 1 /R 2 /O <${'41'.repeat(32)}> /U <${'42'.repeat(32)}> /P -4 >> /ID [<${'43'.repeat(16)}> <${'43'.repeat(16)}>]`,
    );
    await expect(pdfToSvg(locked, library)).rejects.toThrow('locked with a password');
  });

  test('with scripts runs none of them', async () => {
    const file = pdf([
      '<< /Type /Catalog /Pages 2 0 R /OpenAction << /S /JavaScript /JS (globalThis.ran = true) >> >>',
      '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
      '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 300 225] /Contents 4 0 R >>',
      stream('0 0 30 30 re f'),
    ]);
    expect((await read(file)).items).toHaveLength(1);
    expect('ran' in globalThis).toBe(false);
  });

  test('of 10,000 pages offers the first of them in time', async () => {
    const kids = Array.from({ length: 10_000 }, () => '3 0 R').join(' ');
    const file = pdf([
      '<< /Type /Catalog /Pages 2 0 R >>',
      `<< /Type /Pages /Kids [${kids}] /Count 10000 >>`,
      '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 360 600] /Contents 4 0 R >>',
      stream('30 200 40 40 re f'),
    ]);
    expect((await pdfToSvg(file, library)).match(/<g id="Page /g)).toHaveLength(24);
  }, 20_000);
});

describe('the name of a font', () => {
  test.each([
    ['AAAAAA+Barlow-SemiBold', 'Barlow', 600, false],
    ['BCDEFG+OpenSans-BoldItalic', 'Open Sans', 700, true],
    ['SourceSerif4Roman-Regular', 'Source Serif 4', 400, false],
    ['Inter-ExtraLight', 'Inter', 200, false],
    ['NotoSans-Medium', 'Noto Sans', 500, false],
    ['HarbourGrotesk-Black', 'Harbour Grotesk', 900, false],
  ])('%s', (name, family, weight, italic) => {
    expect(fontNamed(name)).toMatchObject({ family, weight, italic });
  });
});

describe('glyphs put together to words', () => {
  const glyph = (text: string, x: number, width = 8, baseline = 20): SetGlyph => ({
    text,
    x,
    end: x + width,
    baseline,
    style: 's',
    size: 16,
  });
  const said = (glyphs: readonly SetGlyph[]) => wordsIn(glyphs).map((w) => w.text);

  test('a gap is a space, a wide one parts texts', () => {
    expect(said([glyph('a', 0), glyph('b', 8), glyph('c', 20), glyph('d', 28)])).toEqual(['ab cd']);
    expect(said([glyph('a', 0), glyph('b', 8), glyph('c', 40)])).toEqual(['ab', 'c']);
    expect(said([glyph('a', 0), glyph('b', 8, 8, 40)])).toEqual(['a', 'b']);
  });

  test('spaced letters are one word', () => {
    expect(said([0, 11, 22, 33, 52, 63].map((x, i) => glyph('abcdef'[i] ?? '', x)))).toEqual(['abcd ef']);
  });
});

describe('words of a font that is embedded and not here', () => {
  const file = (): Uint8Array => {
    const pass = readFileSync(new URL('../../../demo/exported/boarding-pass-390.pdf', import.meta.url));
    // The same file with a font of another name, as long as the old one.
    return bytes(pass.toString('latin1').replaceAll('Inter', 'Astra'));
  };

  test('are kept as the file draws them, with what they say and their own advances', async () => {
    const [own, plain] = [
      await read(file()),
      await read(
        new Uint8Array(
          readFileSync(new URL('../../../demo/exported/boarding-pass-390.pdf', import.meta.url)),
        ),
      ),
    ];
    const texts = (d: typeof own) => d.items.filter((i) => i.kind === 'text');
    expect(texts(own).map((t) => plainText(t.content))).toEqual(
      texts(plain).map((t) => plainText(t.content)),
    );
    texts(own).forEach((t, i) => {
      expect(t.content.runs.every((r) => r.drawn !== undefined)).toBe(true);
      const other = texts(plain)[i];
      expect(Math.abs(t.box.x - (other?.box.x ?? NaN))).toBeLessThan(0.1);
      expect(Math.abs(t.box.width - (other?.box.width ?? NaN))).toBeLessThan(1);
    });
    expect(own.notes.map((n) => n.text)).toContain(
      '“Astra” is not here: its words are kept as the file draws them.',
    );
  });

  test('are set in a font that is chosen for them', async () => {
    const opened = openDrawing(await pdfToSvg(file(), library), 'x');
    const setIn = [{ drawn: 'Astra', family: 'Inter', weight: 600, italic: false }];
    const decisions = { ...NO_DECISIONS, setIn };
    const drawing = opened.measure(await loadMeasurer(opened.faces([], decisions)), decisions);
    const [first] = drawing.items.filter((i) => i.kind === 'text');
    expect(first?.content.runs).toMatchObject([
      { text: 'Boarding pass', style: { family: 'Inter', weight: 600 } },
    ]);
    expect(first?.content.runs[0]?.drawn).toBeUndefined();
  });
});
