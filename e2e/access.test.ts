import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';
import { By, Key, until, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const DEPARTURES = fileURLToPath(new URL('../demo/departures-1280.svg', import.meta.url));
const WAIT = 60_000;

describe.each(['light', 'dark'])('every view is open to all on %s paper', (paper) => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let find: ReturnType<typeof pageOf>['find'];
  let seen: ReturnType<typeof pageOf>['seen'];

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    ({ find, seen } = pageOf(driver));
    await driver.get(application.url);
    await find('h1');
    if (paper === 'dark') await press(driver, By.css('.paper-button'));
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  /** What axe finds that is graver than minor, with the elements. */
  const found = async (): Promise<string[]> => {
    // Colours are judged once nothing fades in any more.
    await driver.sleep(400);
    await driver.executeScript(AXE);
    return driver.executeAsyncScript(
      `const done = arguments[arguments.length - 1];
       // The page that leaves is the designer's own, and nothing runs in its frame.
       axe.run(document, { resultTypes: ['violations'], iframes: false }).then((r) => done(r.violations
         .filter((v) => v.impact !== 'minor')
         .flatMap((v) => v.nodes.map((n) => v.id + ' ' + n.target.join(' ')))));`,
    );
  };
  const stage = (word: string): Promise<void> =>
    press(driver, By.xpath(`//a[contains(@class,"stage") and normalize-space()="${word}"]`));

  test('the empty shelf, a project, and addresses that lead nowhere', async () => {
    expect(await found()).toEqual([]);
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line', Key.ENTER);
    await seen('h1', 'Kittiwake Line');
    expect(await found()).toEqual([]);
    const project = await driver.getCurrentUrl();
    await driver.get(`${application.url}/screens/none`);
    await seen('h1', 'screen');
    expect(await found()).toEqual([]);
    await driver.get(`${application.url}/no/such/page`);
    await seen('h1', 'no page');
    expect(await found()).toEqual([]);
    await driver.get(project);
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(DEPARTURES);
    await seen('figure[aria-label^="The structure"] figcaption', '1280 × 640');
  });

  test('the workbench: with a part in hand, a cell that is typed in, what was refused, and all commands', async () => {
    expect(await found()).toEqual([]);
    await press(driver, By.css('[data-row]:nth-of-type(3) [data-cell="align"]'));
    await driver.actions().sendKeys(Key.ENTER).perform();
    await find('.cell-words');
    expect(await found()).toEqual([]);
    await driver.actions().sendKeys('nowhere', Key.ENTER).perform();
    await seen('[role="alert"]', 'is not understood here');
    expect(await found()).toEqual([]);
    await driver.actions().sendKeys(Key.ESCAPE).perform();
    await driver.actions().keyDown(Key.CONTROL).sendKeys('.').keyUp(Key.CONTROL).perform();
    await find('.palette input');
    expect(await found()).toEqual([]);
    await driver.actions().sendKeys(Key.ESCAPE).perform();
    await driver.wait(async () => (await driver.findElements(By.css('.palette'))).length === 0, WAIT);
  });

  test('tokens, a frame of a height, the proof, the handoff, the revisions and the drawing', async () => {
    await press(driver, By.xpath('//button[starts-with(normalize-space(),"Tokens")]'));
    await find('.token-offers');
    expect(await found()).toEqual([]);
    await press(driver, By.css('.frame-height'));
    await (await find('input.frame-height')).sendKeys('400', Key.ENTER);
    await find('.sheet-window');
    expect(await found()).toEqual([]);
    await stage('Proof');
    await find('.charts');
    await driver.wait(until.elementLocated(By.css('.contact-frame')), WAIT);
    expect(await found()).toEqual([]);
    await stage('Handoff');
    await find('.preview-page');
    await press(driver, By.xpath('//button[starts-with(normalize-space(), "Hand over")]'));
    await find('.leaving-before a');
    expect(await found()).toEqual([]);
    await press(driver, By.css('.saving a'));
    await find('.revision-paper');
    expect(await found()).toEqual([]);
    await stage('Drawing');
    await find('.item-mark');
    expect(await found()).toEqual([]);
  });
});
