import { readFile } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { WebDriver } from 'selenium-webdriver';
import { exportHtml } from '@tinfold/core/handoff';
import { Engine, reflow } from '@tinfold/core/layout';
import { round, standing, walk, type Structure } from '@tinfold/core/model';
import { faceFor, faceKey, resolveFamily, type Face, type ShapedMeasurer } from '@tinfold/core/text';
import { fontFile } from '../../host/src/fonts.js';

type Box = [number, number, number, number];

/** A part that the browser lays out otherwise than the engine. */
export interface Difference {
  readonly width: number;
  readonly part: string;
  readonly ours: Box;
  readonly browser: Box;
}

/** Serves the shipped fonts and an empty page on loopback, for laying exported files out with the same files. */
export async function startLawServer(faces: readonly Face[]): Promise<{ url: string; server: Server }> {
  const files = new Map(faces.map((f) => [`/${faceKey(f)}.woff`, f]));
  const css = faces
    .map(
      (f) =>
        `@font-face{font-family:'${f.family.family}';font-weight:${f.weight};font-style:${f.italic ? 'italic' : 'normal'};src:url(/${faceKey(f)}.woff)}`,
    )
    .join('\n');
  const page = `<!DOCTYPE html><html><head><meta charset="utf-8"><style>${css}</style><style id="own"></style></head><body><div id="frame"></div></body></html>`;
  const server = createServer((request, response) => {
    const face = files.get(request.url ?? '');
    if (face) void readFile(fontFile(face)).then((bytes) => response.end(bytes));
    else response.setHeader('content-type', 'text/html').end(page);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`, server };
}

/** Waits until the page has loaded these fonts. */
export async function loadFonts(driver: WebDriver, url: string, faces: readonly Face[]): Promise<void> {
  await driver.get(url);
  const names = faces.map((f) => `${f.italic ? 'italic ' : ''}${f.weight} 16px '${f.family.family}'`);
  await driver.executeAsyncScript(
    `const done = arguments[1]; Promise.all(arguments[0].map((n) => document.fonts.load(n))).then(() => done());`,
    names,
  );
}

/** What the device of the comparison covers of each side, and how high its window is, px. */
const INSETS = { top: 20, right: 6, bottom: 14, left: 6 };
const WINDOW_HEIGHT = 700;

const MEASURE = `
  const [html, css, widths, insets, height] = arguments;
  document.getElementById('own').textContent = css;
  const frame = document.getElementById('frame');
  frame.innerHTML = html;
  frame.style.height = height + 'px';
  for (const [side, px] of Object.entries(insets))
    frame.firstElementChild.style.setProperty('--inset-' + side, px + 'px');
  const boxes = widths.map((width) => {
    frame.style.width = width + 'px';
    return [...frame.querySelectorAll('[data-part]')].map((el) => {
      const b = el.getBoundingClientRect();
      return [el.dataset.part, b.x, b.y + scrollY, b.width, b.height];
    });
  });
  return { boxes, window: { width: innerWidth, height: innerHeight } };`;

/** Lays a structure's exported files out in the browser and by the engine and compares every box. */
export async function compare(
  driver: WebDriver,
  structure: Structure,
  widths: readonly number[],
  measurer: ShapedMeasurer,
  tolerance = 0.5,
): Promise<{ boxes: number; differences: Difference[] }> {
  const [html, css] = exportHtml(structure);
  const body = /<body>([\s\S]*)<\/body>/.exec(html.text)?.[1] ?? '';
  const answer: {
    boxes: [string, number, number, number, number][][];
    window: { width: number; height: number };
  } = await driver.executeScript(MEASURE, body, css.text, widths, INSETS, WINDOW_HEIGHT);
  const engine = new Engine(measurer);
  const texts = new Set([...walk(structure.root)].filter((p) => p.kind === 'text').map((p) => p.id));
  let boxes = 0;
  const differences: Difference[] = [];
  widths.forEach((width, i) => {
    // A page asks whether its window is wider than high, whatever the width of the frame in it.
    const high = answer.window.width > answer.window.height ? 0 : Infinity;
    const root = standing(structure, { width, height: high, insets: INSETS });
    const ours = reflow(root, width, engine, WINDOW_HEIGHT).parts;
    for (const [part, ...browser] of answer.boxes[i] ?? []) {
      const box = ours.get(part);
      // What is not displayed has an empty box in the browser and none here.
      if (!box) continue;
      boxes++;
      const mine: Box = [box.x, box.y, box.width, box.height];
      const by = texts.has(part) ? Math.max(1, tolerance) : tolerance;
      if (mine.some((n, k) => Math.abs(n - (browser[k] ?? NaN)) > by))
        differences.push({
          width,
          part,
          ours: mine.map((n) => round(n, 2)) as Box,
          browser: browser.map((n) => round(n, 2)) as Box,
        });
    }
  });
  return { boxes, differences };
}

/** The faces that a structure's texts need, each once. */
export function facesIn(structure: Structure): Face[] {
  const found = new Map<string, Face>();
  for (const part of walk(structure.root))
    if (part.content?.kind === 'text')
      for (const { style } of part.content.runs) {
        const face = faceFor({ ...style, family: resolveFamily(style.family).family.family });
        found.set(faceKey(face), face);
      }
  return [...found.values()];
}
