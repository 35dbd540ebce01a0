import type { Server } from 'node:http';
import type { WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { measureDrawing, readSvg } from '@tinfold/core/drawing';
import { breakLines, faceFor, type ShapedMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../host/src/fonts.js';
import { openBrowser } from './support/browser.js';
import { SHAPE_CASES, TEXT_CASES, type CorpusCase } from './support/corpus.js';
import { loadFonts, startLawServer } from './support/law.js';

type Box = readonly [number, number, number, number];

const FAMILIES = [
  'Inter',
  'Barlow',
  'Lato',
  'Open Sans',
  'Roboto',
  'Work Sans',
  'Noto Sans',
  'Source Serif 4',
  'Montserrat',
  'Poppins',
];
const FACES = FAMILIES.flatMap((family) =>
  [400, 700].map((weight) => faceFor({ family, weight, italic: false })),
);

const source = ({ body, frame }: CorpusCase): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${frame ?? 'width="400" height="300"'} font-family="Inter" font-size="16">${body}</svg>`;

describe('what is read from drawings, against Chromium', () => {
  let driver: WebDriver;
  let server: Server;
  let measurer: ShapedMeasurer;

  beforeAll(async () => {
    driver = await openBrowser(1200, 900);
    const started = await startLawServer(FACES);
    server = started.server;
    await loadFonts(driver, started.url, FACES);
    measurer = await loadMeasurer(FACES);
  });
  afterAll(async () => {
    await driver.quit();
    server.close();
  });

  /** The boxes of all elements with one-letter ids, in px of the svg. */
  const shown = (kase: CorpusCase): Promise<Record<string, Box>> =>
    driver.executeScript(
      `const frame = document.getElementById('frame');
       frame.innerHTML = arguments[0];
       const svg = frame.firstChild.getBoundingClientRect();
       return Object.fromEntries([...frame.querySelectorAll('[id]')].filter((e) => /^[ab]$/.test(e.id)).map((e) => {
         const b = e.getBoundingClientRect();
         // The browser's box is without the stroke; the drawn one has half of it all round.
         const style = getComputedStyle(e), m = e.getScreenCTM();
         const stroked = style.stroke !== 'none' && e.tagName !== 'text' && e.tagName !== 'use' && e.tagName !== 'image';
         const half = stroked ? (parseFloat(style.strokeWidth) / 2) * Math.sqrt(Math.abs(m.a * m.d - m.b * m.c)) : 0;
         return [e.id, [b.x - svg.x - half, b.y - svg.y - half, b.width + 2 * half, b.height + 2 * half]];
       }));`,
      source(kase),
    );

  const read = (kase: CorpusCase): Record<string, Box> => {
    const { items } = measureDrawing(readSvg(source(kase), 'Corpus'), measurer);
    return Object.fromEntries(items.map(({ id, box: b }) => [id, [b.x, b.y, b.width, b.height]]));
  };

  test.each(SHAPE_CASES)('$name', async (kase) => {
    const [theirs, ours] = [await shown(kase), read(kase)];
    expect(Object.keys(theirs).length).toBeGreaterThan(0);
    for (const [id, box] of Object.entries(theirs)) {
      const off = box.map((n, i) => Math.abs(n - (ours[id]?.[i] ?? NaN)));
      expect(
        Math.max(...off),
        `${id}: ${JSON.stringify(ours[id])} is ${JSON.stringify(box)} in the browser`,
      ).toBeLessThanOrEqual(0.5);
    }
  });

  test.each(TEXT_CASES)('words: $name', async (kase) => {
    const [theirs, ours] = [await shown(kase), read(kase)];
    for (const [id, [x, , width]] of Object.entries(theirs)) {
      const [ourX, , ourWidth] = ours[id] ?? [NaN, NaN, NaN, NaN];
      expect(
        Math.max(Math.abs(ourX - x), Math.abs(ourX + ourWidth - x - width)),
        `${id}: ${ourX} ${ourWidth}`,
      ).toBeLessThanOrEqual(0.5);
    }
  });

  /** A number generator that gives the same numbers in every run. */
  const numbers = (seed: number) => () => {
    seed = (seed * 1103515245 + 12345) & 0x7fffffff;
    return seed / 0x7fffffff;
  };
  const WORDS = [
    'Marrow',
    'Isle',
    'pier-side',
    '14:20',
    'boats,',
    'a',
    'from',
    'H-01',
    'Ellin',
    'Skerry.',
    '£12.50',
    'https://kittiwake.example/low/tarn?x=1',
    'up—down',
    '“full”',
    'rota\u00ADtion',
    'C++',
    'and/or',
    '38 min',
    'north-ramp',
    '(aft)',
    'No!',
    '10–14',
    'half-past',
  ];
  const sentence = (random: () => number, length: number): string =>
    Array.from({ length }, () => WORDS[Math.floor(random() * WORDS.length)] ?? 'boat').join(' ');

  test('the width of any string that a file covers is right within 0.05 px', async () => {
    const random = numbers(7);
    const samples = FACES.flatMap((face) =>
      Array.from({ length: 12 }, () => ({
        text: sentence(random, 1 + Math.floor(random() * 6)).replace(/\u00AD/g, ''),
        style: {
          family: face.family.family,
          size: 12 + Math.floor(random() * 36),
          weight: face.weight,
          italic: false,
          letterSpacing: 0,
          colour: '#000',
        },
      })),
    );
    const theirs: number[] = await driver.executeScript(
      `const frame = document.getElementById('frame');
       return arguments[0].map(({ text, style }) => {
         frame.innerHTML = '<span style="white-space:pre"></span>';
         const span = frame.firstChild;
         span.style.fontFamily = "'" + style.family + "'"; span.style.fontSize = style.size + 'px'; span.style.fontWeight = style.weight;
         span.textContent = text;
         return span.getBoundingClientRect().width;
       });`,
      samples,
    );
    const off = samples.map(({ text, style }, i) =>
      Math.abs(measurer.width(text, style) - (theirs[i] ?? NaN)),
    );
    expect(Math.max(...off)).toBeLessThanOrEqual(0.05);
  });

  /** A soft hyphen is shown only at the end of a line, as a hyphen. */
  const asShown = (line: string): string => line.replace(/\u00AD$/, '-').replace(/\u00AD/g, '');

  test('at least 99.5 % of 500 paragraphs break as in the browser', async () => {
    const random = numbers(11);
    const samples = Array.from({ length: 500 }, (_, i) => ({
      text: sentence(random, 8 + Math.floor(random() * 30)),
      family: FAMILIES[i % FAMILIES.length] ?? 'Inter',
      width: 120 + Math.floor(random() * 500),
    }));
    const theirs: string[][] = await driver.executeScript(
      `const frame = document.getElementById('frame');
       return arguments[0].map(({ text, family, width }) => {
         frame.innerHTML = '<p style="margin:0;font-size:16px"></p>';
         const p = frame.firstChild; p.style.fontFamily = "'" + family + "'"; p.style.width = width + 'px'; p.textContent = text;
         const node = p.firstChild; const range = document.createRange(); const lines = []; let top = null;
         for (let i = 0; i < text.length; i++) {
           range.setStart(node, i); range.setEnd(node, i + 1);
           const rects = range.getClientRects(); const box = rects[rects.length - 1];
           if (!box || (box.width === 0 && text[i] !== ' ')) { if (lines.length) lines[lines.length - 1] += text[i]; continue; }
           if (top === null || (text[i] !== ' ' && box.top > top + 4)) { lines.push(''); top = box.top; }
           lines[lines.length - 1] += text[i];
         }
         return lines.map((l) => l.trim());
       });`,
      samples,
    );
    const different = samples.filter(({ text, family, width }, i) => {
      const style = { family, size: 16, weight: 400, italic: false, letterSpacing: 0, colour: '#000' };
      const content = {
        kind: 'text' as const,
        runs: [{ text, style }],
        lineHeight: 24,
        align: 'start' as const,
      };
      const ours = breakLines(content, width, measurer).map((l) =>
        l.runs
          .map((r) => r.text)
          .join('')
          .trim(),
      );
      return JSON.stringify(ours) !== JSON.stringify(theirs[i]?.map(asShown));
    });
    expect(
      different.length,
      JSON.stringify(different.slice(0, 3).map((d) => [d, theirs[samples.indexOf(d)]])),
    ).toBeLessThanOrEqual(2);
  });
});
