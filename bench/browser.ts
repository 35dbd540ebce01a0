/** Reflow by the engine and by headless Chromium of the same structures at the same widths, in one run. */
import { performance } from 'node:perf_hooks';
import { exportHtml } from '@tinfold/core/handoff';
import { Engine } from '@tinfold/core/layout';
import { walk, type Structure } from '@tinfold/core/model';
import { openBrowser } from '../e2e/support/browser.js';
import { facesIn, loadFonts, startLawServer } from '../e2e/support/law.js';
import { benchMeasurer, cardsStructure } from './support.js';

const WIDTHS = Array.from({ length: 40 }, (_, i) => 320 + i * 40);

/** Sets each width and forces layout by reading a box; styles are parsed once before. Gives ms a reflow. */
const TIME = `
  const [html, css, widths, passes] = arguments;
  document.getElementById('own').textContent = css;
  const frame = document.getElementById('frame');
  frame.innerHTML = html;
  const last = frame.querySelector('[data-part]').lastElementChild;
  const pass = () => { for (const w of widths) { frame.style.width = w + 'px'; last.getBoundingClientRect(); } };
  pass();
  return Array.from({ length: passes }, () => {
    const from = performance.now();
    pass();
    return (performance.now() - from) / widths.length;
  });`;

/** Each side goes through the widths so many times; the middle one counts. */
const PASSES = 5;
const middle = (times: readonly number[]): number => times.toSorted((a, b) => a - b)[PASSES >> 1] ?? NaN;

/** ms a reflow by the engine. */
function engineTime(structure: Structure): number {
  // Widths that an engine has kept would cost nothing: each pass has one that knows no width yet.
  const pass = () => {
    const engine = new Engine(measurer);
    // One box is read, as in the browser.
    for (const w of WIDTHS) engine.frame(structure.root, w);
  };
  const parts = [...walk(structure.root)].length;
  for (let i = 0; i < Math.max(1, 3_000 / parts); i++) pass();
  return middle(
    Array.from({ length: PASSES }, () => {
      const from = performance.now();
      pass();
      return (performance.now() - from) / WIDTHS.length;
    }),
  );
}

const measurer = await benchMeasurer();
const structures = [100, 1_000, 10_000].map(cardsStructure);
// All of them before the browser is there, which goes on painting beside them.
const ours = structures.map(engineTime);
const driver = await openBrowser(1920, 1000);
const faces = facesIn(cardsStructure(10));
const { server, url } = await startLawServer(faces);
try {
  await loadFonts(driver, url, faces);
  const rows: Record<string, string | number>[] = [];
  for (const [i, structure] of structures.entries()) {
    const [html, css] = exportHtml(structure);
    const body = /<body>([\s\S]*)<\/body>/.exec(html.text)?.[1] ?? '';
    const chromium = middle(await driver.executeScript(TIME, body, css.text, WIDTHS, PASSES));
    const own = ours[i] ?? NaN;
    rows.push({
      parts: [...walk(structure.root)].length,
      'ours, ms': own.toFixed(2),
      'Chromium, ms': chromium.toFixed(2),
      ratio: (own / chromium).toFixed(2),
    });
  }
  console.table(rows);
} finally {
  await driver.quit();
  server.close();
}
