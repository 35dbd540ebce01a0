import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { Key, type WebDriver } from 'selenium-webdriver';
import { build, type Rolldown } from 'vite';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { DrawingError, NO_DECISIONS, openDrawing } from '@tinfold/core/drawing';
import { plainText } from '@tinfold/core/model';
import { faceFor, type ShapedMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../host/src/fonts.js';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { PAGES, type PageCase } from './support/pages.js';

type Box = readonly [number, number, number, number];

interface Shown {
  readonly box: Box;
  readonly words: boolean;
  readonly painted: boolean;
}

const html = ({ style = '', body }: PageCase): string =>
  `<!DOCTYPE html><style>body{margin:0;width:1280px;font:16px Inter}${style}</style><body>${body}</body>`;

describe('pages that a browser lays out, as they are read', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let measurer: ShapedMeasurer;
  /** The module that lays pages out, as one script. */
  let script: string;

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser(1300, 900);
    await driver.get(application.url);
    measurer = await loadMeasurer(
      [400, 700].map((weight) => faceFor({ family: 'Inter', weight, italic: false })),
    );
    const built = (await build({
      configFile: false,
      logLevel: 'error',
      resolve: { conditions: ['development', 'module', 'browser'] },
      build: {
        write: false,
        lib: {
          entry: fileURLToPath(new URL('../web/src/reading/layOutPage.ts', import.meta.url)),
          formats: ['iife'],
          name: 'pages',
        },
      },
    })) as Rolldown.RolldownOutput[];
    script = built[0]?.output[0].code ?? '';
    await driver.executeAsyncScript(`
      const done = arguments[0];
      Promise.all([400, 700].map((weight) => new FontFace('Inter', 'url(/fonts/inter-latin-' + weight + '-normal.woff)', { weight }).load()))
        .then((faces) => { for (const face of faces) document.fonts.add(face); done(); });`);
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const laidOut = async (what: 'layOutPage' | 'layOutForeign', source: string): Promise<string> => {
    const result = await driver.executeAsyncScript<{ page?: string; error?: string }>(
      `const done = arguments[1]; ${script}; pages.${what}(arguments[0], []).then((page) => done({ page }), (e) => done({ error: String(e) }));`,
      source,
    );
    if (result.page === undefined) throw new Error(result.error);
    return result.page;
  };
  const read = (page: string) =>
    openDrawing(page, 'Page').measure(measurer, { ...NO_DECISIONS, keepKinds: ['background'] });

  /** Boxes of elements, or of the words in elements that hold only words, by id. */
  const shown = (kase: PageCase): Promise<Record<string, Shown>> =>
    driver.executeScript(
      `const frame = document.createElement('iframe');
       frame.style.cssText = 'position:fixed;left:0;top:0;width:1280px;height:900px;border:0';
       document.body.append(frame);
       const inside = frame.contentDocument;
       inside.open(); inside.write(arguments[0]); inside.close();
       for (const font of document.fonts) inside.fonts.add(font);
       const found = Object.fromEntries([...inside.querySelectorAll('[id]')].filter((e) => /^[a-z]$/.test(e.id)).map((e) => {
         const style = frame.contentWindow.getComputedStyle(e);
         const painted = style.backgroundColor !== 'rgba(0, 0, 0, 0)';
         const words = e.childElementCount === 0 && e.textContent.trim() !== '' && !painted;
         const range = inside.createRange(); range.selectNodeContents(e);
         const b = words ? range.getBoundingClientRect() : e.getBoundingClientRect();
         return [e.id, { words, painted, box: [b.x, b.y, b.width, b.height] }];
       }));
       frame.remove();
       return found;`,
      html(kase),
    );

  test.each(PAGES)('$name', async (kase) => {
    const theirs = await shown(kase);
    const drawing = read(await laidOut('layOutPage', html(kase)));
    for (const [id, { box, words, painted }] of Object.entries(theirs)) {
      if ((!words && !painted) || box[2] === 0 || box[3] === 0) continue;
      const ours = drawing.items.find((i) => i.id === id)?.box;
      const told = `${id}: ${JSON.stringify(ours)} is ${JSON.stringify(box)} in the browser`;
      expect(ours, told).toBeDefined();
      if (!ours) continue;
      const across = Math.max(Math.abs(ours.x - box[0]), Math.abs(ours.width - box[2]));
      expect(across, told).toBeLessThanOrEqual(0.5);
      const middle = Math.abs(ours.y + ours.height / 2 - box[1] - box[3] / 2);
      // Browsers round to 64ths of a px.
      if (words) expect(middle, told).toBeLessThanOrEqual(1 + 1 / 64);
      else
        expect(Math.max(Math.abs(ours.y - box[1]), Math.abs(ours.height - box[3])), told).toBeLessThanOrEqual(
          0.5,
        );
    }
  });

  test('words keep their lines, their look and their places beside other things', async () => {
    const drawing = read(
      await laidOut(
        'layOutPage',
        html({
          name: '',
          body: `<div style="display:flex;gap:20px;width:440px"><p id="p" style="margin:0;width:160px;line-height:24px;text-transform:uppercase">Low <b>Tarn</b> from pier two</p><div id="q" style="display:grid;grid-template-columns:1fr 1fr"><span>14:20</span><span>15:40</span></div></div>`,
        }),
      ),
    );
    const texts = drawing.items.flatMap((i) => (i.kind === 'text' ? [i] : []));
    expect(texts.map((t) => plainText(t.content))).toEqual(['LOW TARN FROM PIER TWO', '14:20', '15:40']);
    const [p, first, second] = texts;
    expect(p?.content.runs.map((r) => [r.text.trim(), r.style.weight])).toContainEqual(['TARN', 700]);
    expect(p?.content.lineHeight).toBeCloseTo(24, 1);
    expect(p?.box.height).toBeCloseTo(48, 0);
    expect(first?.box.x).toBeCloseTo(180, 0);
    expect(second?.box.y).toBeCloseTo(first?.box.y ?? 0, 1);
  });

  test('nothing runs, nothing is fetched, and what is hidden or cut off stays away', async () => {
    const page = await laidOut(
      'layOutPage',
      html({
        name: '',
        body: `<script>document.title = 'ran'; parent.ran = true</script><img src="x" onerror="parent.ran = true" width="40" height="40"><div style="overflow:hidden;width:50px;height:20px"><i style="position:absolute;left:10px;top:5px;width:30px;height:9px;background:#cde"></i></div><div style="display:none">gone</div><div style="visibility:hidden">away</div><b onclick="parent.ran = true">Go</b><iframe src="/"></iframe>`,
      }),
    );
    expect(await driver.executeScript('return window.ran === undefined')).toBe(true);
    expect(page).not.toMatch(/script|onerror|onclick|iframe|gone|away/);
    expect(page).toContain('Go');
  });

  test('HTML within an SVG stands where the browser puts it', async () => {
    const source = `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="300"><g transform="translate(100 50) scale(2)"><foreignObject x="10" y="0" width="200" height="100"><div xmlns="http://www.w3.org/1999/xhtml" style="display:flex;gap:10px;font:10px Inter"><span style="width:40px;height:20px;background:#0a4f55"></span><span>Deck</span></div></foreignObject></g></svg>`;
    const [box, words] = read(await laidOut('layOutForeign', source)).items;
    expect(box?.box).toMatchObject({ x: 120, y: 50, width: 80, height: 40 });
    expect(words?.kind === 'text' && words.content.runs[0]?.style.size).toBe(20);
    expect(words?.box.x).toBeCloseTo(220, 0);
  });

  test('a page is dropped as a drawing is, and kept with its items where the browser put them', async () => {
    const folder = await mkdtemp(path.join(tmpdir(), 'pages-'));
    const file = path.join(folder, 'fares.html');
    const cards = ['Single', 'Ten crossings', 'Islander']
      .map(
        (name) =>
          `<section style="flex:1;padding:24px;border:1px solid #c9d3d1"><h2>${name}</h2><p>Any boat of the day</p></section>`,
      )
      .join('');
    await writeFile(
      file,
      `<!DOCTYPE html><title>Fares</title><body style="margin:0;font:16px/24px Inter"><main style="padding:40px"><h1>Fares</h1><div style="display:flex;gap:20px">${cards}</div></main></body>`,
    );
    const { find, seen } = pageOf(driver);
    await driver.get(application.url);
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line', Key.ENTER);
    await seen('h1', 'Kittiwake Line');
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(file);
    await seen('figure[aria-label^="The structure"] figcaption', '1280 ×');
    const [, id = ''] = /screens\/([\w-]+)/.exec(await driver.getCurrentUrl()) ?? [];
    const screen = (await (await fetch(`${application.url}/api/screens/${id}`)).json()) as {
      name: string;
      drawings: { source: string }[];
    };
    expect(screen.name).toBe('Fares');
    const texts = read(screen.drawings[0]?.source ?? '').items.flatMap((i) =>
      i.kind === 'text' ? [plainText(i.content)] : [],
    );
    expect(texts).toEqual([
      'Fares',
      ...['Single', 'Ten crossings', 'Islander'].flatMap((n) => [n, 'Any boat of the day']),
    ]);
    await rm(folder, { recursive: true });
  });

  test('without a browser a page that lays itself out is refused with what to do', () => {
    const page = html({ name: '', body: '<p>One</p><p>Two</p>' });
    expect(() => read(page)).toThrow(DrawingError);
    expect(() => read(page)).toThrow(/^The page lays itself out at “body”: open it in the program/);
  });
});
