import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import decompress from 'woff2-encoder/decompress';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { faceFor } from '@tinfold/core/text';
import { loadMeasurer } from '../host/src/fonts.js';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { press as pressOn } from './support/press.js';

const WAIT = 60_000;
const require = createRequire(import.meta.url);

/** A font whose family is called Asters instead of Barlow: both in UTF-16, as long as each other. */
function renamed(font: Uint8Array): Uint8Array {
  const utf16 = (text: string) => Buffer.from(Array.from(text, (ch) => `\0${ch}`).join(''), 'latin1');
  const bytes = Buffer.from(font);
  for (let at = bytes.indexOf(utf16('Barlow')); at >= 0; at = bytes.indexOf(utf16('Barlow'), at + 2))
    utf16('Asters').copy(bytes, at);
  return bytes;
}

/** A drawing with something of every kind to clean up or to be told of. */
const UNTIDY = `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="420"><rect width="900" height="420" fill="#fff"/>
<g display="none"><rect id="ghost" x="60" y="320" width="90" height="20" fill="#c00"/></g>
<rect id="twin" x="40" y="40" width="820" height="120" fill="#e3ecea"/><rect id="card" x="40" y="40" width="820" height="120" fill="#e3ecea"/>
<text id="words" x="100" y="80" font-family="Asters" font-size="20">Next boat to Marrow Isle</text>
<text id="later" x="100" y="120" font-family="Asters" font-size="20">Deck space for 18 cars</text>
<rect id="hit" x="40" y="190" width="400" height="100" fill="none"/>
<image id="boat" x="40" y="190" width="400" height="200" href="https://example.invalid/boat.png"/></svg>`;

const SIDE_BY_SIDE = `<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="900" font-family="Inter">
${['Board', 'Pass']
  .map(
    (name, i) =>
      `<g id="${name}" transform="translate(${40 + i * 440} 40)"><rect width="390" height="800" fill="#fff"/><text x="16" y="40">${name} of today</text><rect x="16" y="60" width="358" height="90" fill="#cde"/><circle cx="30" cy="780" r="9" fill="red"/></g>`,
  )
  .join('')}</svg>`;
const PAGE = `<!DOCTYPE html><style>body{margin:0;font:16px Inter}</style><div style="position:absolute;left:0;top:0;width:800px;height:60px;background:#123456"></div><h1 style="position:absolute;left:24px;top:80px;margin:0">Fares from May</h1>`;

describe('the Drawing stage', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let folder: string;

  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'tinfold-stage-'));
    await writeFile(path.join(folder, 'untidy.svg'), UNTIDY);
    await writeFile(path.join(folder, 'side-by-side.svg'), SIDE_BY_SIDE);
    await writeFile(path.join(folder, 'fares.html'), PAGE);
    await writeFile(path.join(folder, 'broken.pdf'), '%PDF-1.7 and nothing that a page could be made of');
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
    await rm(folder, { recursive: true, force: true });
  });

  const find = (css: string): Promise<WebElement> => driver.wait(until.elementLocated(By.css(css)), WAIT);
  const press = (xpath: string): Promise<void> => pressOn(driver, By.xpath(xpath));
  const seen = async (text: string): Promise<void> => {
    const read = async () => (await (await find('#root')).getText()).includes(text);
    await driver.wait(() => read().catch(() => false), WAIT, `“${text}” on the page`);
  };

  test('tells what was read, cleaned up and not understood', async () => {
    await driver.get(application.url);
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line', Key.ENTER);
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(path.join(folder, 'untidy.svg'));
    await driver.wait(until.urlContains('/screens/'), WAIT);
    await press('//a[text()="Drawing"]');
    for (const line of [
      'hidden element left out',
      'shape exactly under an equal one left out',
      'shape without any paint left out',
      '“Asters” is not here: measured with Inter',
      'shown as placeholders',
    ])
      await seen(line);
  });

  test('shows the place of a note on the drawing', async () => {
    await press('//li[contains(., "placeholders")]//button');
    await driver.wait(until.elementLocated(By.css('.item-picture.item-chosen')), WAIT);
  });

  test('a clean-up is taken back and an item left out, and reading again keeps both', async () => {
    await press('//li[contains(., "hidden element")]//button[text()="take back"]');
    await seen('“hidden” taken back for all');
    const sheet = await find('.item-room .sheet-frame');
    await driver.actions().move({ origin: sheet, x: 0, y: -130 }).click().perform();
    await seen('“card”, a box');
    await press('//button[contains(., "Leave out")]');
    await seen('“card” left out by you');
    await press('//button[contains(., "Read the structure again")]');
    await seen('Edits hold');
    await seen('rev 1');
    await press('//a[text()="Drawing"]');
    await seen('“hidden” taken back for all');
    await seen('“card” left out by you');
    expect(await driver.findElements(By.css('.item-mark'))).toHaveLength(5);
  });

  test('items are gone through with the keys, and several made one', async () => {
    const sheet = await find('.item-room .sheet-frame');
    await sheet.sendKeys(Key.ESCAPE);
    const here = async () => (await find('.drawing-foot')).getText();
    for (let i = 0; i < 6 && !(await here()).includes('“words”'); i++) await sheet.sendKeys(Key.ARROW_RIGHT);
    await seen('“words”, a text');
    await sheet.sendKeys(Key.chord(Key.SHIFT, Key.ARROW_RIGHT));
    await seen('2 items');
    await press('//button[contains(., "Make one")]');
    await seen('made one by you: “words”');
    await driver.wait(async () => (await driver.findElements(By.css('.item-mark'))).length === 4, WAIT);
  });

  test('an item is taken for another kind', async () => {
    const sheet = await find('.item-room .sheet-frame');
    for (let i = 0; i < 6 && !(await (await find('.drawing-foot')).getText()).includes('“twin”'); i++)
      await sheet.sendKeys(Key.ARROW_RIGHT);
    await pressOn(driver, By.css('.chosen .ant-select'));
    await press('//div[contains(@class, "ant-select-item-option") and contains(., "a picture")]');
    await seen('“twin” taken for a picture by you');
  });

  test('a rule that was set stays when the structure is read again', async () => {
    await press('//button[contains(., "Read the structure again")]');
    await seen('Edits hold');
    const line = await find('input[aria-label="Type rules for the part in hand"]');
    await press('//div[@role="row" and @data-row][1]//div[contains(@class, "cell-name")]');
    await line.sendKeys('pad 33', Key.ENTER);
    await seen('saved');
    await press('//a[text()="Drawing"]');
    await press('//button[contains(., "Read the structure again")]');
    await seen('Edits hold');
    await seen('33');
  });

  test('a font that is added is measured with from then on', async () => {
    await press('//a[text()="Drawing"]');
    await seen('“Asters” is not here');
    const shipped = require.resolve('@fontsource/barlow/files/barlow-latin-400-normal.woff2');
    await writeFile(path.join(folder, 'aster.ttf'), renamed(await decompress(await readFile(shipped))));
    await (await find('input[aria-label="Choose font files"]')).sendKeys(path.join(folder, 'aster.ttf'));
    await seen('take away');
    await driver.wait(
      async () => !(await (await find('#root')).getText()).includes('“Asters” is not here'),
      WAIT,
    );
  });

  test('a file of several screens offers each, and an HTML page is read', async () => {
    await press('//a[text()="Kittiwake Line"]');
    await (
      await find('input[aria-label="Choose a drawing"]')
    ).sendKeys(path.join(folder, 'side-by-side.svg'));
    await seen('holds 2 screens side by side');
    await press('//button[contains(., "Read these 2 screens")]');
    await seen('3 screens');
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(path.join(folder, 'fares.html'));
    await driver.wait(until.urlContains('/screens/'), WAIT);
    await seen('Fares from May');
  });

  test('words that are outlines are read as words, and so is a PDF', async () => {
    const exported = fileURLToPath(new URL('../demo/exported/', import.meta.url));
    for (const file of ['boarding-pass-390.poppler.svg', 'boarding-pass-390.pdf']) {
      await press('//a[text()="Kittiwake Line"]');
      await driver.wait(async () => !(await driver.getCurrentUrl()).includes('/screens/'), WAIT);
      await (await find('input[aria-label="Choose a drawing"]')).sendKeys(path.join(exported, file));
      await driver.wait(until.urlContains('/screens/'), WAIT);
      await seen('Boarding pass');
    }
    await press('//a[text()="Kittiwake Line"]');
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(path.join(folder, 'broken.pdf'));
    await seen('The PDF is damaged and cannot be read: export it again.');
  });

  test('drawn words are typed once, read elsewhere, and set in a font', async () => {
    const face = faceFor({ family: 'Lato', weight: 400, italic: false });
    const style = {
      family: 'Lato',
      size: 20,
      weight: 400,
      italic: false,
      letterSpacing: 0,
      colour: '#1d2f3a',
    };
    const measurer = await loadMeasurer([face]);
    // Condensed and slanted: no font has these letters.
    const line = (words: string, y: number) =>
      `<path fill="#1d2f3a" transform="matrix(.93 0 -.12 1.02 40 ${y})" d="${measurer.outline(words, style, { x: 0, y: 0 })}"/>`;
    const lines = [
      line('room for eighteen cars', 80),
      line('more room for foot passengers', 160),
      line('more cars', 240),
    ];
    await writeFile(
      path.join(folder, 'foreign.svg'),
      `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="300"><rect width="600" height="300" fill="#fff"/>${lines.join('')}</svg>`,
    );
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(path.join(folder, 'foreign.svg'));
    await driver.wait(until.urlContains('/screens/'), WAIT);
    await seen('Drawn words');
    await press('//a[text()="Drawing"]');
    await seen('1 font not here');
    await press('//button[contains(., "Next to say")]');
    const say = () => find('input[aria-label="What the drawn words say"]');
    await (await say()).sendKeys('room for', Key.ENTER);
    await seen('The text shows 4 words, but 2 were typed');
    await (await say()).sendKeys(Key.chord(Key.CONTROL, 'a'), 'room for eighteen cars', Key.ENTER);
    await seen('in 1 text');
    await press('//button[contains(., "Next to say")]');
    await driver.wait(
      async () => (await (await say()).getAttribute('placeholder')) === 'more room for foot ·assengers',
      WAIT,
    );
    await (await say()).sendKeys('more room for foot passengers', Key.ENTER);
    await seen('all of it said');
    await pressOn(driver, By.css('.drawn-font'));
    await driver.switchTo().activeElement().sendKeys('Lato 400', Key.ENTER);
    await seen('is set in Lato 400');
    await press('//button[contains(., "Read the structure again")]');
    await seen('Edits hold');
    await seen('more cars');
    const family: string = await driver.executeScript(
      `return getComputedStyle([...document.querySelectorAll('[data-part] span')].find((s) => s.textContent === 'more cars')).fontFamily`,
    );
    expect(family).toContain('tf lato');
  });

  test('nothing was fetched from elsewhere, nothing was complained of', async () => {
    const names: string[] = await driver.executeScript(
      `return performance.getEntriesByType('resource').map((e) => e.name)`,
    );
    expect(
      names.filter((n) => !n.startsWith(application.url) && !n.startsWith('data:') && !n.startsWith('blob:')),
    ).toEqual([]);
    expect((await driver.manage().logs().get('browser')).map((e) => e.message)).toEqual([]);
  });
});
