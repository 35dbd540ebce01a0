/**
 * Frames per second while the caliper is dragged over a screen of so many parts (1,000 where nothing is said), in the built
 * application: while the screen is proved for the first time, and once that is done.
 */
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, until } from 'selenium-webdriver';
import { startApplication } from '../e2e/support/application.js';
import { openBrowser } from '../e2e/support/browser.js';
import { startTemporaryPostgres } from '../scripts/lib/postgres.mjs';
import { cardsDrawing } from './support.js';

const PARTS = Number(process.argv[2] ?? 1000);
const WAIT = 60_000;
/** By then the workers are at rest: a proof of so many parts takes less, ms. */
const PROOF = 45_000;
/** How long the scripted hand drags, ms. */
const DRAG = 4_000;

/** Moves the pointer over the rail once a frame, to and fro between phone and desktop widths, and counts the frames shown. */
const SCRIPT = `
  const [ms, done] = arguments;
  const rail = document.querySelector('.rail-track');
  const box = rail.getBoundingClientRect();
  const send = (type, x) => rail.dispatchEvent(new PointerEvent(type, {
    bubbles: true, pointerId: 1, buttons: 1, clientX: x, clientY: box.top + 5 }));
  rail.setPointerCapture = () => {};
  const at = (t) => box.left + box.width * (0.32 + 0.28 * Math.sin(t / 700));
  const from = performance.now();
  const widths = new Set();
  let frames = 0;
  send('pointerdown', at(0));
  const step = () => {
    const t = performance.now() - from;
    if (t > ms) return done({ fps: frames / (t / 1000), widths: widths.size });
    frames++;
    send('pointermove', at(t));
    widths.add(document.querySelector('.caliper').getAttribute('aria-valuenow'));
    requestAnimationFrame(step);
  };
  requestAnimationFrame(step);`;

const postgres = await startTemporaryPostgres();
const folder = await mkdtemp(path.join(tmpdir(), 'tinfold-drag-'));
const file = path.join(folder, 'sailings.svg');
await writeFile(file, cardsDrawing(PARTS));
const application = await startApplication(postgres.url);
const driver = await openBrowser(1280, 800);
try {
  await driver.get(application.url);
  const name = await driver.wait(
    until.elementLocated(By.css('input[aria-label="Name of a new project"]')),
    WAIT,
  );
  await name.sendKeys('Bench\n');
  const input = await driver.wait(until.elementLocated(By.css('input[aria-label="Choose a drawing"]')), WAIT);
  await input.sendKeys(file);
  await driver.wait(until.elementLocated(By.css('.caliper')), WAIT);
  await driver.wait(until.elementLocated(By.css('[data-part]')), WAIT);
  const drag = async (when: string) => {
    const { fps, widths }: { fps: number; widths: number } = await driver.executeAsyncScript(SCRIPT, DRAG);
    return { 'parts on the screen': PARTS, when, 'frames a second': fps.toFixed(1), 'widths shown': widths };
  };
  const whileProved = await drag('while it is proved');
  await new Promise((resolve) => setTimeout(resolve, PROOF));
  console.table([whileProved, await drag('once it is proved')]);
} finally {
  await driver.quit();
  await application.stop();
  await postgres.stop();
  await rm(folder, { recursive: true, force: true });
}
