/**
 * How long the workbench takes to answer keys and drags on a screen of so many parts (500 where nothing is said): from the key to
 * the picture that shows what it did (Event Timing, in steps of 8 ms), and from one frame of a drag to the next.
 */
import { By, Key, Origin, until, type WebDriver } from 'selenium-webdriver';
import { onWorkbench, proved } from './workbench.js';

const PARTS = Number(process.argv[2] ?? 500);
/** Each is done so often, and what is told is the slowest but one. */
const TIMES = 6;
/** By then what a key started has been shown, ms. */
const SHOWN = 400;
/** By then the workers have looked for questions and faults again, ms. */
const RESTED = 3000;

const WATCH = `
  window.answers = [];
  new PerformanceObserver((list) => {
    for (const e of list.getEntries()) if (/^(key|click|pointer)/.test(e.name)) window.answers.push(e.duration);
  }).observe({ type: 'event', durationThreshold: 16, buffered: false });`;

/** Begins to note the time between frames. */
const FRAMES = `
  window.frames = []; let last = performance.now(); window.noting = true;
  const step = () => { const now = performance.now(); window.frames.push(now - last); last = now;
    if (window.noting) requestAnimationFrame(step); };
  requestAnimationFrame(step);`;

type Act = (driver: WebDriver) => Promise<void>;

const press =
  (...keys: readonly string[]): Act =>
  async (driver) => {
    for (const key of keys) await driver.actions().sendKeys(key).perform();
  };
const held =
  (hold: string, key: string): Act =>
  (driver) =>
    driver.actions().keyDown(hold).sendKeys(key).keyUp(hold).perform();
const undo: Act = held(Key.CONTROL, 'z');

/** What is done, and what takes it back without being timed. */
const ACTS: readonly (readonly [name: string, act: Act, back?: Act])[] = [
  ['↓ in the list', press(Key.ARROW_DOWN)],
  ['→ to another cell', press(Key.ARROW_RIGHT), press(Key.ARROW_LEFT)],
  ['a digit over a cell', press('4'), press(Key.ESCAPE)],
  ['Alt H hides the part', held(Key.ALT, 'h'), undo],
  ['Alt ↓ moves the part', held(Key.ALT, Key.ARROW_DOWN), undo],
  ['Alt P pins the part', held(Key.ALT, 'p'), undo],
  ['Ctrl Z after Alt H', undo, held(Key.ALT, 'h')],
  ['Alt C copies the part', held(Key.ALT, 'c'), undo],
];

/** Drags a gap of the part in hand to and fro: the longest but one time between two frames, ms. */
async function dragged(driver: WebDriver): Promise<number> {
  await driver.findElement(By.css('.parts-grid')).click();
  await press(Key.HOME, Key.ARROW_DOWN)(driver);
  const grip = await driver.wait(until.elementLocated(By.css('[data-handle^="gap"]')), SHOWN * 10);
  await driver.executeScript(FRAMES);
  await driver.actions().move({ origin: grip }).press().perform();
  for (const y of [6, -4, 8, -6, 5])
    await driver.actions().move({ origin: Origin.POINTER, x: 2, y, duration: 200 }).perform();
  const frames = await driver.executeScript<number[]>('window.noting = false; return window.frames;');
  await driver.actions().sendKeys(Key.ESCAPE).release().perform();
  return Math.round(frames.sort((a, b) => a - b).at(-2) ?? 0);
}

await onWorkbench(PARTS, async (driver) => {
  await proved();
  await driver.executeScript(WATCH);
  const slowest = async (act: Act, back?: Act): Promise<number> => {
    const all: number[] = [];
    for (let i = 0; i < TIMES; i++) {
      await driver.executeScript('window.answers.length = 0');
      await act(driver);
      await driver.sleep(SHOWN);
      all.push(await driver.executeScript<number>('return Math.max(16, ...window.answers)'));
      await back?.(driver);
      await driver.sleep(RESTED);
    }
    return all.sort((a, b) => a - b).at(-2) as number;
  };
  const rows: { what: string; ms: number }[] = [];
  await driver.findElement(By.css('.parts-grid')).click();
  await press(Key.HOME, Key.ARROW_DOWN, Key.ARROW_DOWN)(driver);
  for (const [what, act, back] of ACTS) rows.push({ what, ms: await slowest(act, back) });
  const caliper = await driver.findElement(By.css('.caliper'));
  rows.push({ what: '← on the caliper', ms: await slowest(() => caliper.sendKeys(Key.ARROW_LEFT)) });
  rows.push({ what: 'a gap, dragged on the sheet', ms: await dragged(driver) });
  console.table(rows.map((r) => ({ 'parts on the screen': PARTS, ...r })));
});
