import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { By, Key, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const WAIT = 60_000;
const DOC = readFileSync(new URL('../docs/first-hour.md', import.meta.url), 'utf8');
const PHONE = fileURLToPath(new URL('../demo/departures-390.svg', import.meta.url));

/** The words of the document that are words on the screen. */
const NAMED = new Set([...DOC.matchAll(/\*\*([^*]+)\*\*/g)].map((m) => m[1] as string));

describe('the first hour, as docs/first-hour.md tells it', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let page: ReturnType<typeof pageOf>;
  const used = new Set<string>();
  /** A word on the screen that the document names. */
  const said = (word: string): string => {
    expect(NAMED).toContain(word);
    used.add(word);
    return word;
  };
  const button = (word: string) =>
    press(driver, By.xpath(`//button[starts-with(normalize-space(), "${said(word)}")]`));
  const stage = (word: string) =>
    press(driver, By.xpath(`//a[contains(@class,"stage") and normalize-space()="${said(word)}"]`));
  const shown = (word: string) => driver.findElements(By.xpath(`//*[contains(text(), "${said(word)}")]`));

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    page = pageOf(driver);
    await driver.get(application.url);
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  test('a project, and a drawing of ours in it', async () => {
    await (await page.find('input[aria-label="Name of a new project"]')).sendKeys('My ferries');
    await button('Add project');
    await page.seen('h1', 'My ferries');
    await press(driver, By.xpath(`//button[.//b[.="${said('departures-1280.svg')}"]]`));
    await page.seen('figure[aria-label^="The structure"] figcaption', '1280 × 640');
    expect((await shown('As drawn')).length * (await shown('Reflowed')).length).toBeGreaterThan(0);
    await page.setWidth(600);
    await page.setWidth(1280);
  });

  test('a question, a rule that is typed, and taken back', async () => {
    await page.find('.answer');
    await button('Put away');
    await page.choose(said('Marrow Isle tiles'));
    const line = await page.find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('gap 24', Key.ENTER);
    await page.seen('[role="status"]', 'rev 1 · saved');
    await button('Undo');
    await page.seen('[role="status"]', 'rev 2 · saved');
  });

  test('the proof, and what is held to', async () => {
    await stage('Proof');
    await page.find('.contact-frame');
    await page.seen('.expectations', said('Expectations'));
    const line = await page.find('.expectations input');
    await line.sendKeys('no side scroll 320–1920', Key.ENTER);
    await page.seen('.expectation-list', 'no side scroll');
  });

  test('a second drawing of the same screen', async () => {
    await stage('Drawing');
    await page.find('.item-mark');
    expect(await shown('Add this screen at another width')).not.toEqual([]);
    await (await page.find('input[aria-label="Choose a drawing of another width"]')).sendKeys(PHONE);
    await page.seen('.drawn-widths', 'drawn at 390');
  });

  test('what leaves, and what it was before', async () => {
    await stage('Handoff');
    await page.find('.preview-page');
    await button('Hand over');
    await page.find('.leaving-before a');
    expect((await driver.findElement(By.css('.saving a')).getText()).startsWith(said('rev'))).toBe(true);
    await press(driver, By.css('.saving a'));
    await page.find('.revision-paper');
    await driver.wait(
      async () => (await driver.findElements(By.css('.revisions-list button'))).length > 3,
      WAIT,
    );
    // No word on the screen is named that these steps did not meet.
    expect([...NAMED].filter((word) => !used.has(word) && word !== 'bold')).toEqual([]);
  });
});
