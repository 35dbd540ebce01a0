import { fileURLToPath } from 'node:url';
import { By, Key, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';

const DEPARTURES = fileURLToPath(new URL('../demo/departures-1280.svg', import.meta.url));
const WAIT = 60_000;

/** From the shelf to a structure that was changed, proved and undone, without a pointer. Only the file is handed to the input. */
describe('all of it by keys', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let find: ReturnType<typeof pageOf>['find'];
  let seen: ReturnType<typeof pageOf>['seen'];
  let boxes: ReturnType<typeof pageOf>['boxes'];

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    ({ find, seen, boxes } = pageOf(driver));
    await driver.get(application.url);
    await find('h1');
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const keys = (...all: readonly string[]): Promise<void> =>
    all.reduce(
      (before, key) => before.then(() => driver.actions().sendKeys(key).perform()),
      Promise.resolve(),
    );
  const held = async (hold: string, ...all: readonly string[]): Promise<void> => {
    await driver.actions().keyDown(hold).perform();
    await keys(...all);
    await driver.actions().keyUp(hold).perform();
  };
  const focused = <T>(read: string): Promise<T> =>
    driver.executeScript(`const e = document.activeElement; return ${read};`);
  /** Goes on by Tab until what has the focus answers to a CSS selector. */
  const tabTo = async (css: string): Promise<void> => {
    for (let i = 0; i < 80; i++) {
      if (await focused<boolean>(`e.matches(${JSON.stringify(css)})`)) return;
      await keys(Key.TAB);
    }
    throw new Error(`Tab never comes to ${css}.`);
  };
  const cell = async (name: string, column: string): Promise<string> =>
    driver
      .findElement(
        By.xpath(
          `//div[@data-row][.//span[@class="part-name" and text()="${name}"]]//*[@data-cell="${column}"]`,
        ),
      )
      .getText();
  /** Goes down the list of parts to a name. */
  const goTo = async (name: string): Promise<void> => {
    await tabTo('.parts-grid');
    await keys(Key.HOME);
    for (let i = 0; i < 60; i++) {
      const now = await driver.findElements(By.css('.parts [aria-selected="true"] .part-name'));
      if (now[0] && (await now[0].getText()) === name) return;
      await keys(Key.ARROW_DOWN);
    }
    throw new Error(`The arrows never come to ${name}.`);
  };

  test('a project is made and opened', async () => {
    await tabTo('input[aria-label="Name of a new project"]');
    await keys('Kittiwake Line', Key.ENTER);
    await seen('h1', 'Kittiwake Line');
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(DEPARTURES);
    await seen('figure[aria-label^="The structure"] figcaption', '1280 × 640');
  });

  test('the caliper is moved, and back', async () => {
    await tabTo('.caliper');
    await keys(Key.HOME);
    await seen('figure[aria-label^="The structure"] figcaption', '240 ×');
    await keys(Key.END);
    await seen('figure[aria-label^="The structure"] figcaption', '1920 ×');
    await keys(Key.TAB);
    await held(Key.CONTROL, 'a');
    await keys('1280', Key.ENTER);
    await seen('figure[aria-label^="The structure"] figcaption', '1280 ×');
  });

  test('a cell is reached, typed, stepped and chosen from its words', async () => {
    await goTo('Marrow Isle tiles');
    for (
      let i = 0;
      i < 12 &&
      !(await focused<boolean>(`document.querySelector('[data-current="true"]')?.dataset.cell === 'gap'`));
      i++
    )
      await keys(Key.ARROW_RIGHT);
    await keys('3', '0', Key.ENTER);
    await driver.wait(async () => (await cell('Marrow Isle tiles', 'gap')) === '30', WAIT);
    await keys(Key.ENTER, Key.ARROW_UP, Key.ENTER);
    await driver.wait(async () => (await cell('Marrow Isle tiles', 'gap')) === '31', WAIT);
    await keys(Key.ARROW_RIGHT, Key.ARROW_RIGHT, Key.ENTER, Key.ARROW_DOWN, Key.ENTER);
    await driver.wait(async () => (await cell('Marrow Isle tiles', 'align')) !== 'stretch', WAIT);
  });

  test('parts are put together, and the container gets its rules on the rule line', async () => {
    await goTo('Next sailings');
    const before = await boxes(['Next sailings']);
    await held(Key.CONTROL, '.');
    await find('.palette input');
    await keys('into a col', Key.ENTER);
    await seen('.outcome', 'into a column');
    await tabTo('input[aria-label="Type rules for the part in hand"]');
    await keys('pad 10', Key.ENTER);
    await driver.wait(
      async () => ((await boxes(['Next sailings']))[0]?.x ?? 0) > (before[0]?.x ?? 0) + 5,
      WAIT,
    );
  });

  test('a token is named, and the sheets and the proof are reached', async () => {
    await tabTo('.ledger-tab[aria-pressed="false"]');
    await keys(Key.ENTER);
    await tabTo('.token-offers caption button');
    await keys(Key.ENTER);
    await driver.wait(async () => (await driver.findElements(By.css('[data-token]'))).length > 3, WAIT);
    await tabTo('.frame-height');
    await keys(Key.ENTER);
    await find('input.frame-height');
    await keys('320', Key.ENTER);
    await find('.sheet-window');
    await tabTo('a.stage:nth-of-type(3)');
    await keys(Key.ENTER);
    await find('.charts');
    await tabTo('a.stage:nth-of-type(2)');
    await keys(Key.ENTER);
    await find('.parts-grid, .tokens');
  });

  test('everything is taken back', async () => {
    await tabTo('.ledger-tab[aria-pressed="false"]');
    await tabTo('.workbench-main button, .parts-grid');
    for (let i = 0; i < 8; i++) await held(Key.CONTROL, 'z');
    await driver.wait(
      async () =>
        (await driver.findElement(By.xpath('//button[.="Undo"]')).getAttribute('disabled')) !== null,
      WAIT,
      'nothing is left to undo',
    );
    await seen('[role="status"]', 'saved');
    expect(
      await driver.findElements(By.xpath('//span[@class="part-name" and text()="Column"]')),
    ).toHaveLength(0);
  });
});
