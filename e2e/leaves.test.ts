import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import type { WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { Engine, reflow } from '@tinfold/core/layout';
import { standing } from '@tinfold/core/model';
import { SCRIPT_FALLBACKS, toSfnt } from '@tinfold/core/text';
import { run } from '../cli/src/main.js';
import { everyCase } from '../core/test/support/benchmark.js';
import { DRAWINGS } from '../demo/screens.js';
import { fontFile } from '../host/src/fonts.js';
import { handoffFiles } from '../host/src/handoff.js';
import { readSources } from '../host/src/reading.js';
import { openBrowser } from './support/browser.js';

const WIDTHS = [320, 390, 600, 768, 1024, 1280, 1440];
/** Every so many of the benchmark's screens leave; all of them with `LEAVES_EVERY=1`. */
const EVERY = Number(process.env['LEAVES_EVERY'] ?? 20);
const demo = (file: string): string => fileURLToPath(new URL(`../demo/${file}`, import.meta.url));

/** The boxes of all parts at each width, once the fonts that it asks for are there. */
const MEASURE = `
  const [widths, done] = arguments;
  const frame = document.querySelector('.frame');
  (async () => {
    const boxes = [];
    for (const width of widths) {
      frame.style.width = width + 'px';
      frame.getBoundingClientRect();
      await document.fonts.ready;
      boxes.push([...frame.querySelectorAll('[data-part]')].map((el) => {
        const b = el.getBoundingClientRect();
        return [el.dataset.part, b.x, b.y + scrollY, b.width, b.height];
      }));
    }
    done({ failed: [...document.fonts].filter((f) => f.status === 'error').map((f) => f.family), boxes });
  })();`;

interface Answer {
  readonly failed: readonly string[];
  readonly boxes: readonly (readonly (readonly [string, number, number, number, number])[])[];
}

/** The screens of the demo, each with one drawing and with all that it has. */
const demoScreens = [...new Set(DRAWINGS.map((d) => d.file.replace(/-\d+\.svg$/, '')))].map((name) => ({
  name,
  files: DRAWINGS.filter((d) => d.file.startsWith(`${name}-`)).map(
    (d) => new URL(`../demo/${d.file}`, import.meta.url),
  ),
}));
const screens = [...demoScreens, ...everyCase(EVERY)].flatMap(({ name, files }) => [
  { name: `${name}, one drawing`, files: files.slice(0, 1) },
  ...(files.length > 1 ? [{ name: `${name}, two drawings`, files: files.slice(0, 2) }] : []),
]);

describe('the folder that leaves', () => {
  let driver: WebDriver;
  let folder: string;
  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'leaves-'));
    // A machine on which no font is installed that a drawing asks for. Without any, Chromium loads none that comes with a page either.
    const [hebrew] = SCRIPT_FALLBACKS.filter((f) => f.family === 'Noto Sans Hebrew');
    if (!hebrew) throw new Error('There is no Hebrew font.');
    const face = { family: hebrew, weight: 400, italic: false, subset: 'hebrew' } as const;
    await writeFile(path.join(folder, 'hebrew.ttf'), toSfnt(await readFile(fontFile(face))));
    const fonts = path.join(folder, 'fonts.conf');
    await writeFile(
      fonts,
      `<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd"><fontconfig><include ignore_missing="yes">/etc/fonts/conf.d</include><dir>${folder}</dir><cachedir>${folder}/cache</cachedir></fontconfig>`,
    );
    driver = await openBrowser(1280, 800, { FONTCONFIG_FILE: fonts });
  });
  afterAll(async () => {
    await driver.quit();
    await rm(folder, { recursive: true });
  });

  test.each(screens)(
    '$name: opened from disk it stands as the engine says, in the fonts that lie beside it',
    async ({ name, files }) => {
      const sources = files.map(async (f) => ({ text: await readFile(f, 'utf8'), name }));
      const { structure, measurer } = await readSources(await Promise.all(sources));
      const out = path.join(folder, name);
      for (const file of await handoffFiles(structure, measurer, ['html'], [1280])) {
        await mkdir(path.dirname(path.join(out, file.name)), { recursive: true });
        await writeFile(path.join(out, file.name), file.text);
      }
      await driver.get(pathToFileURL(path.join(out, 'index.html')).href);
      const { failed, boxes } = await driver.executeAsyncScript<Answer>(MEASURE, WIDTHS);
      expect(failed).toEqual([]);
      const engine = new Engine(measurer);
      const astray: string[] = [];
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
          if (off > 0.5) astray.push(`${part} at ${width} by ${off}`);
        }
      }
      expect(astray.slice(0, 5)).toEqual([]);
      expect(compared).toBeGreaterThan(50);
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
