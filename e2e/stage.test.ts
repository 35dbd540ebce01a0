import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';

const WAIT = 20_000;

/** A drawing with something of every kind to clean up or to be told of. */
const UNTIDY = `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="420"><rect width="900" height="420" fill="#fff"/>
<g display="none"><rect id="ghost" x="60" y="320" width="90" height="20" fill="#c00"/></g>
<rect id="twin" x="40" y="40" width="820" height="120" fill="#e3ecea"/><rect id="card" x="40" y="40" width="820" height="120" fill="#e3ecea"/>
<text id="words" x="100" y="80" font-family="Aster Sans" font-size="20">Next boat to Marrow Isle</text>
<rect id="hit" x="40" y="190" width="400" height="100" fill="none"/>
<image id="boat" x="40" y="190" width="400" height="200" href="https://example.invalid/boat.png"/></svg>`;

describe('the Drawing stage', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let folder: string;

  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'tinfold-stage-'));
    await writeFile(path.join(folder, 'untidy.svg'), UNTIDY);
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
    await rm(folder, { recursive: true, force: true });
  });

  const find = (css: string): Promise<WebElement> => driver.wait(until.elementLocated(By.css(css)), WAIT);
  const press = async (xpath: string): Promise<void> => {
    await (await driver.wait(until.elementLocated(By.xpath(xpath)), WAIT)).click();
  };
  const seen = async (text: string): Promise<void> => {
    const read = async () => (await (await find('#root')).getText()).includes(text);
    await driver.wait(() => read().catch(() => false), WAIT, `“${text}” on the page`);
  };

  test('tells what was read, cleaned up and not understood', async () => {
    await driver.get(application.url);
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line', Key.ENTER);
    await (await find('input[type="file"]')).sendKeys(path.join(folder, 'untidy.svg'));
    await driver.wait(until.urlContains('/screens/'), WAIT);
    await press('//a[text()="Drawing"]');
    for (const line of [
      'hidden elements left out',
      'shapes exactly under an equal one left out',
      'shapes without any paint left out',
      '“Aster Sans” is not here: measured with Inter',
      'shown as placeholders',
    ])
      await seen(line);
  });

  test('shows the place of a note on the drawing', async () => {
    await press('//li[contains(., "placeholders")]//button');
    await driver.wait(until.elementLocated(By.css('.item-picture.item-chosen')), WAIT);
  });

  test('a clean-up is taken back and an item left out, and reading again keeps both', async () => {
    await press('//li[contains(., "hidden elements")]//button[text()="take back"]');
    await seen('“hidden” taken back for all');
    const sheet = await find('.item-room .sheet-frame');
    await driver.actions().move({ origin: sheet, x: 0, y: -130 }).click().perform();
    await press('//button[contains(., "Leave “card” out")]');
    await seen('“card” left out by you');
    await press('//button[contains(., "Read the structure again")]');
    await seen('Parts list');
    await seen('rev 1');
    await press('//a[text()="Drawing"]');
    await seen('“hidden” taken back for all');
    await seen('“card” left out by you');
    expect(await driver.findElements(By.css('.item-mark'))).toHaveLength(4);
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
