import { fileURLToPath } from 'node:url';
import { By, Key, until, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { serve, type Running } from '../server/src/main.js';
import { freshDatabase } from '../server/test/database.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const at = (file: string): string => fileURLToPath(new URL(`../${file}`, import.meta.url));
const WAIT = 60_000;

describe('while the server is away', () => {
  let driver: WebDriver;
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let running: Running;
  let find: ReturnType<typeof pageOf>['find'];
  let seen: ReturnType<typeof pageOf>['seen'];
  let screen: string;

  const start = (port: number): Promise<Running> =>
    serve({ databaseUrl: database.url, port, webRoot: at('web/dist'), logLevel: 'silent' });
  const port = (): number => Number(new URL(running.url).port);

  beforeAll(async () => {
    database = await freshDatabase(inject('postgresUrl'));
    running = await start(0);
    driver = await openBrowser();
    ({ find, seen } = pageOf(driver));
    await driver.get(running.url);
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line', Key.ENTER);
    await seen('h1', 'Kittiwake Line');
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(at('demo/departures-1280.svg'));
    await driver.wait(until.urlContains('/screens/'), WAIT);
    await seen('[role="status"]', 'rev 0 · saved');
    screen = await driver.getCurrentUrl();
  });
  afterAll(async () => {
    await driver.quit();
    await running.close();
    await database.drop();
  });

  const gapCell = By.xpath(
    '//div[@data-row][.//span[@class="part-name" and text()="Marrow Isle tiles"]]//*[@data-cell="gap"]',
  );
  const typeGap = async (gap: string): Promise<void> => {
    await press(driver, gapCell);
    await driver.actions().sendKeys(gap, Key.ENTER).perform();
    await driver.wait(async () => (await driver.findElement(gapCell).getText()) === gap, WAIT);
  };

  test('edits are kept here, said so, and sent when it is back', async () => {
    await running.close();
    await typeGap('41');
    await typeGap('42');
    await seen('[role="status"]', 'kept here until the server is back');
    running = await start(port());
    await seen('[role="status"]', 'rev 2 · saved');
  });

  test('edits of a page that was closed meanwhile are there when the screen is opened again', async () => {
    await running.close();
    await typeGap('57');
    await seen('[role="status"]', 'kept here until the server is back');
    const old = await driver.getWindowHandle();
    await driver.switchTo().newWindow('tab');
    const fresh = await driver.getWindowHandle();
    await driver.switchTo().window(old);
    await driver.close();
    await driver.switchTo().window(fresh);
    running = await start(port());
    await driver.get(screen);
    await seen('[role="status"]', 'rev 3 · saved');
    await driver.wait(async () => (await driver.findElement(gapCell).getText()) === '57', WAIT);
    await driver.navigate().refresh();
    await seen('[role="status"]', 'rev 3 · saved');
    expect(await driver.wait(until.elementLocated(gapCell), WAIT).getText()).toBe('57');
  });
});
