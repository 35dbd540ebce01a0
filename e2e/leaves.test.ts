import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import type { WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { Engine, reflow } from '@tinfold/core/layout';
import { standing, walk } from '@tinfold/core/model';
import { run } from '../cli/src/main.js';
import { readSources } from '../host/src/reading.js';
import { openBrowser } from './support/browser.js';

const WIDTHS = [320, 390, 600, 768, 1024, 1280, 1440];
const demo = (file: string): string => fileURLToPath(new URL(`../demo/${file}`, import.meta.url));

const MEASURE = `
  const [widths, done] = arguments;
  const frame = document.querySelector('.frame');
  document.fonts.ready.then(() => done({
    faces: [...document.fonts].map((f) => [f.family, f.weight, f.status]),
    boxes: widths.map((width) => {
      frame.style.width = width + 'px';
      return [...frame.querySelectorAll('[data-part]')].map((el) => {
        const b = el.getBoundingClientRect();
        return [el.dataset.part, b.x, b.y + scrollY, b.width, b.height];
      });
    }),
  }));`;

interface Answer {
  readonly faces: readonly (readonly [family: string, weight: string, status: string])[];
  readonly boxes: readonly (readonly (readonly [string, number, number, number, number])[])[];
}

describe('the folder that leaves', () => {
  let driver: WebDriver;
  let folder: string;
  beforeAll(async () => {
    driver = await openBrowser();
    folder = await mkdtemp(path.join(tmpdir(), 'leaves-'));
  });
  afterAll(async () => {
    await driver.quit();
    await rm(folder, { recursive: true });
  });

  test.each(['departures-1280.svg', 'boarding-pass-390.svg'])(
    '%s opened from disk stands as the engine says, in the fonts that lie beside it',
    async (file) => {
      const out = path.join(folder, file);
      expect(await run(['node', 'tinfold', 'export', demo(file), '--to', 'html', '--out', out])).toBe(0);
      const source = await readFile(demo(file), 'utf8');
      const { structure, measurer } = await readSources([{ text: source, name: file.replace('.svg', '') }]);
      await driver.get(pathToFileURL(path.join(out, 'index.html')).href);
      const { faces, boxes } = await driver.executeAsyncScript<Answer>(MEASURE, WIDTHS);
      expect(faces.length).toBeGreaterThan(0);
      expect(faces.filter(([, , status]) => status !== 'loaded')).toEqual([]);
      const engine = new Engine(measurer);
      const texts = new Set([...walk(structure.root)].filter((p) => p.kind === 'text').map((p) => p.id));
      let compared = 0;
      for (const [i, width] of WIDTHS.entries()) {
        const ours = reflow(standing(structure, { width }), width, engine).parts;
        for (const [part, x, y, w, h] of boxes[i] ?? []) {
          const box = ours.get(part);
          if (!box) continue;
          compared++;
          const off = Math.max(
            ...[x - box.x, y - box.y, w - box.width, h - box.height].map((n) => Math.abs(n)),
          );
          expect(off, `${part} at ${width}`).toBeLessThanOrEqual(texts.has(part) ? 1 : 0.5);
        }
      }
      expect(compared).toBeGreaterThan(100);
    },
  );

  test('its fonts are small, under their licences, and the same bytes each time', async () => {
    const twice = ['one', 'two'].map((n) => path.join(folder, n));
    for (const out of twice)
      expect(
        await run(['node', 'tinfold', 'export', demo('departures-1280.svg'), '--to', 'html', '--out', out]),
      ).toBe(0);
    const fonts = readdirSync(path.join(twice[0] ?? '', 'fonts')).sort();
    expect(fonts.filter((f) => f.endsWith('-licence.txt'))).toHaveLength(1);
    for (const font of fonts) {
      const [a, b] = await Promise.all(twice.map((out) => readFile(path.join(out, 'fonts', font))));
      expect(a?.equals(b as Buffer), font).toBe(true);
      expect(a?.length).toBeLessThan(20_000);
    }
  });
});
