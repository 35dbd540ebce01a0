import { fileURLToPath } from 'node:url';
import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf, type Box } from './support/page.js';
import { press } from './support/press.js';

const DEPARTURES = fileURLToPath(new URL('../demo/departures-1280.svg', import.meta.url));
const BROKEN = fileURLToPath(new URL('../package.json', import.meta.url));
const WAIT = 60_000;

describe('the whole road, on an empty database', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let find: ReturnType<typeof pageOf>['find'];
  let seen: ReturnType<typeof pageOf>['seen'];
  let setWidth: ReturnType<typeof pageOf>['setWidth'];
  let boxes: ReturnType<typeof pageOf>['boxes'];

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    ({ find, seen, setWidth, boxes } = pageOf(driver));
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const CARDS = ['Marrow Isle tile', 'Low Tarn tile', 'Nether Quay tile', 'Ellin Skerry tile'];

  const openCopies = async (): Promise<void> => {
    await press(driver, By.css('.copies'));
    await driver.wait(async () => (await driver.findElements(By.css('[data-row]'))).length > 50, WAIT);
  };

  const cellAt = (rowName: string, kind: string): By =>
    By.xpath(
      `//div[@data-row][.//span[@class="part-name" and text()="${rowName}"]]//*[@data-cell="${kind}"]`,
    );
  const cell = (rowName: string, kind: string): Promise<WebElement> =>
    driver.wait(until.elementLocated(cellAt(rowName, kind)), WAIT);

  test('a project is made, and a file that is no drawing is refused with a sentence', async () => {
    await driver.get(application.url);
    await seen('.empty', 'The shelf is empty');
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line', Key.ENTER);
    await seen('h1', 'Kittiwake Line');
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(BROKEN);
    await seen('[role="alert"]', 'The file is not a drawing');
  });

  test('a drawing is imported and read', async () => {
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(DEPARTURES);
    await driver.wait(until.urlContains('/screens/'), WAIT);
    await seen('figure[aria-label^="The structure"] figcaption', '1280 × 640');
    expect(await driver.findElements(By.css('[data-item]'))).not.toHaveLength(0);
  });

  test('the four cards stand in one row as drawn, and break into rows at 480', async () => {
    await openCopies();
    const wide = await boxes(CARDS);
    expect(new Set(wide.map((b) => Math.round(b.y))).size).toBe(1);
    expect(wide.map((b) => Math.round(b.width))).toEqual([285, 285, 285, 285]);
    await setWidth(480);
    const narrow = await boxes(CARDS);
    expect(new Set(narrow.map((b) => Math.round(b.y))).size).toBeGreaterThan(1);
    for (const b of narrow) expect(b.x + b.width).toBeLessThanOrEqual(480);
  });

  test('the caliper follows the pointer and the arrow keys', async () => {
    const caliper = await find('[role="slider"]');
    await caliper.sendKeys(Key.ARROW_RIGHT, Key.ARROW_RIGHT);
    expect(await caliper.getAttribute('aria-valuenow')).toBe('482');
    await caliper.sendKeys(Key.chord(Key.SHIFT, Key.ARROW_RIGHT));
    const event = Number(await caliper.getAttribute('aria-valuenow'));
    expect(event).toBeGreaterThan(482);
    const track = await find('.rail-track');
    await driver
      .actions()
      .move({ origin: caliper, x: 0, y: 10 })
      .press()
      .move({ origin: track, x: 0, y: 10 })
      .release()
      .perform();
    expect(Number(await caliper.getAttribute('aria-valuenow'))).toBeCloseTo(1080, -1);
  });

  test('what is chosen in one place is chosen in all', async () => {
    await press(driver, cellAt('Low Tarn tile', 'padding'));
    const row = await driver.findElement(By.css('[aria-selected="true"] .part-name'));
    expect(await row.getText()).toBe('Low Tarn tile');
    expect(await driver.findElements(By.css('[data-hatch="padding"]'))).not.toHaveLength(0);
    const sheet = await find('figure[aria-label^="The structure"] .sheet-frame');
    await driver.actions().move({ origin: sheet, x: 0, y: -4 }).click().perform();
    const other = await driver.findElement(By.css('[aria-selected="true"] .part-name'));
    expect(await other.getText()).not.toBe('Low Tarn tile');
  });

  test('a gap is edited in place, undone, redone, and is there after a reload', async () => {
    await setWidth(1280);
    const before = await boxes(CARDS);
    await press(driver, cellAt('Marrow Isle tiles', 'gap'));
    await driver.actions().sendKeys('36', Key.ENTER).perform();
    await seen('[role="status"]', 'rev 1 · saved');
    const after = await boxes(CARDS);
    const gapOf = ([a, b]: readonly Box[]) => Math.round((b?.x ?? 0) - (a?.x ?? 0) - (a?.width ?? 0));
    expect([gapOf(before), gapOf(after)]).toEqual([20, 36]);
    await press(driver, By.xpath('//button[contains(., "Undo")]'));
    await seen('[role="status"]', 'rev 2 · saved');
    expect(gapOf(await boxes(CARDS))).toBe(20);
    await press(driver, By.xpath('//button[contains(., "Redo")]'));
    await seen('[role="status"]', 'rev 3 · saved');
    await driver.navigate().refresh();
    await seen('[role="status"]', 'rev 3 · saved');
    expect(await (await cell('Marrow Isle tiles', 'gap')).getText()).toBe('36');
    await openCopies();
    expect(gapOf(await boxes(CARDS))).toBe(36);
  });

  test('an edit that cannot stand is refused with the reason, and changes nothing', async () => {
    await press(driver, cellAt('Marrow Isle tile', 'limits'));
    await driver.actions().sendKeys('300-200', Key.ENTER).perform();
    await seen('[role="alert"]', 'a min that is not over the max');
    await driver.actions().sendKeys(Key.ESCAPE).perform();
    await seen('[role="status"]', 'rev 3 · saved');
  });

  test('nothing was complained of in the browser', async () => {
    const entries = await driver.manage().logs().get('browser');
    expect(entries.map((e) => e.message)).toEqual([]);
  });
});
