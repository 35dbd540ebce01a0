import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import type { WebDriver } from 'selenium-webdriver';
import { build } from 'vite';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { FORMAT_NAMES, type Format, type OutputFile } from '@tinfold/core/handoff';
import { Engine, reflow } from '@tinfold/core/layout';
import { standing } from '@tinfold/core/model';
import { DRAWINGS } from '../demo/screens.js';
import { handoffFiles } from '../host/src/handoff.js';
import { readSources, type Reading } from '../host/src/reading.js';
import { sourceText } from '../host/src/source.js';
import { openBrowser } from './support/browser.js';

const HERE = path.dirname(fileURLToPath(import.meta.url));
const DEMO = path.join(HERE, '../demo');
const WIDTHS = [320, 390, 768, 1024, 1280, 1440];
const HEIGHT = 900;
type Box = readonly [x: number, y: number, width: number, height: number];

const read = async (...names: string[]): Promise<Reading> =>
  readSources(
    await Promise.all(
      names.map(async (name) => ({ text: await sourceText(path.join(DEMO, name)), name: 'Departures' })),
    ),
  );

describe('folders that left, opened from disk', () => {
  let driver: WebDriver & { sendDevToolsCommand: (name: string, value: object) => Promise<unknown> };
  /** Within the project, so that the built components find React. */
  let folder: string;

  beforeAll(async () => {
    driver = await openBrowser(1440, HEIGHT);
    folder = await mkdtemp(path.join(HERE, '../node_modules/.handoff-'));
  });
  afterAll(async () => {
    await driver.quit();
    await rm(folder, { recursive: true, force: true });
  });

  async function written(name: string, files: readonly OutputFile[]): Promise<string> {
    const to = path.join(folder, name);
    for (const file of files) {
      await mkdir(path.dirname(path.join(to, file.name)), { recursive: true });
      await writeFile(path.join(to, file.name), file.text);
    }
    return to;
  }

  /** Opens a page of a folder and waits for its fonts. */
  async function open(page: string): Promise<void> {
    await driver.get(pathToFileURL(page).href);
    await driver.executeAsyncScript('const done = arguments[0]; document.fonts.ready.then(() => done());');
  }

  async function at(width: number): Promise<void> {
    await driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width,
      height: HEIGHT,
      deviceScaleFactor: 1,
      mobile: false,
    });
  }

  /** The boxes of all elements that show something in the frame at each width, in order. */
  async function boxes(): Promise<Box[][]> {
    const found: Box[][] = [];
    for (const width of WIDTHS) {
      await at(width);
      found.push(
        await driver.executeScript<Box[]>(`
          return [...document.querySelectorAll('.frame, .frame *')].flatMap((e) => {
            const b = e.getBoundingClientRect();
            return getComputedStyle(e).display === 'contents' || b.width + b.height === 0 ? [] : [[b.x, b.y + scrollY, b.width, b.height]];
          });`),
      );
    }
    return found;
  }

  const apart = (a: Box, b: Box | undefined): number =>
    Math.max(...a.map((n, i) => Math.abs(n - (b?.[i] ?? Infinity))));

  const screens: readonly (readonly [string, readonly string[]])[] = [
    ['one drawing', ['departures-1280.svg']],
    ['two drawings', ['departures-1280.svg', 'departures-390.svg']],
    ['a phone', ['boarding-pass-390.svg']],
  ];

  /** Every screen of the demo, with all its drawings. */
  const demoScreens = [...new Set(DRAWINGS.map((d) => d.file.replace(/-\d+\.svg$/, '')))].map(
    (name): [string, string[]] => [
      name,
      DRAWINGS.filter((d) => d.file.startsWith(`${name}-`)).map((d) => d.file),
    ],
  );

  test.each(screens)(
    'the page of %s stands as the engine says, with the fonts that came with it',
    async (name, files) => {
      const { structure, measurer } = await read(...files);
      const to = await written(`html ${name}`, await handoffFiles(structure, measurer, ['html'], WIDTHS));
      await open(path.join(to, 'index.html'));
      const engine = new Engine(measurer);
      const texts = new Set<string>();
      for (const width of WIDTHS) {
        await at(width);
        const ours = reflow(standing(structure, { width }), width, engine, HEIGHT).parts;
        const theirs = await driver.executeScript<[string, ...Box][]>(`
        return [...document.querySelectorAll('[data-part]')].map((e) => {
          const b = e.getBoundingClientRect();
          return [e.dataset.part, b.x, b.y + scrollY, b.width, b.height];
        });`);
        for (const [id, ...box] of theirs) {
          const mine = ours.get(id);
          if (!mine) continue;
          texts.add(id);
          expect(apart([mine.x, mine.y, mine.width, mine.height], box), `${id} at ${width}`).toBeLessThan(1);
        }
      }
      expect(texts.size).toBeGreaterThan(20);
    },
  );

  const same = (a: readonly Box[][], b: readonly Box[][]) => {
    for (const [i, width] of WIDTHS.entries()) {
      expect(b[i]?.length, `elements at ${width}`).toBe(a[i]?.length);
      expect(Math.max(...(a[i] ?? []).map((box, k) => apart(box, b[i]?.[k]))), `at ${width}`).toBeLessThan(
        0.5,
      );
    }
  };

  test.each(demoScreens)(
    'React components and custom elements of %s stand as the page does',
    async (name, drawings) => {
      const { structure, measurer } = await read(...drawings);
      const files = async (format: Format) =>
        written(`${name} ${format}`, await handoffFiles(structure, measurer, [format], WIDTHS));
      await open(path.join(await files('html'), 'index.html'));
      const page = await boxes();

      await open(path.join(await files('elements'), 'index.html'));
      if (name === 'departures')
        expect(
          await driver.executeScript('return document.querySelectorAll("marrow-isle-tile").length'),
        ).toBe(4);
      same(page, await boxes());

      const react = await files('react');
      await writeFile(
        path.join(react, 'main.tsx'),
        `import { createRoot } from 'react-dom/client';\nimport { Departures } from './Departures';\nconst root = document.getElementById('root');\nif (root) createRoot(root).render(<Departures />);\n`,
      );
      await writeFile(
        path.join(react, 'page.html'),
        '<!DOCTYPE html><html><head><meta charset="utf-8"></head><body><div id="root" style="height:100%"></div><script type="module" src="./main.tsx"></script></body></html>',
      );
      const require = createRequire(new URL('../web/package.json', import.meta.url));
      await build({
        configFile: false,
        root: react,
        base: './',
        logLevel: 'error',
        resolve: {
          alias: {
            react: path.dirname(require.resolve('react')),
            'react-dom': path.dirname(require.resolve('react-dom')),
          },
        },
        build: {
          outDir: 'built',
          modulePreload: false,
          rolldownOptions: { input: path.join(react, 'page.html') },
        },
      });
      // A browser does not load modules from disk: the one script that was built is put at the end, as a plain one.
      const { readFile } = await import('node:fs/promises');
      const built = path.join(react, 'built/page.html');
      const html = await readFile(built, 'utf8');
      await writeFile(
        built,
        html.replace(/<script type="module" crossorigin/, '<script defer').replace(/ crossorigin/g, ''),
      );
      await open(built);
      await driver.wait(
        async () => (await driver.executeScript('return document.querySelectorAll(".frame *").length')) !== 0,
        10_000,
      );
      same(page, await boxes());
    },
  );

  test('all formats are written, and the same twice', async () => {
    const { structure, measurer } = await read('boarding-pass-390.svg');
    const write = () => handoffFiles(structure, measurer, FORMAT_NAMES, [390]);
    const [first, second] = [await write(), await write()];
    expect(new Set(first.map((f) => f.name.split('/')[0]))).toEqual(new Set(FORMAT_NAMES));
    expect(second).toEqual(first);
  });
});
