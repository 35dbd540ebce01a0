import { By, Key, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const WAIT = 60_000;

describe('two windows on one structure', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let page: ReturnType<typeof pageOf>;
  let windows: string[];

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    page = pageOf(driver);
    await driver.get(application.url);
    await page.importBoard();
    const address = await driver.getCurrentUrl();
    await driver.switchTo().newWindow('window');
    await driver.get(address);
    await page.seen('figure[aria-label^="The structure"] figcaption', '1280 × 640');
    windows = await driver.getAllWindowHandles();
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const lookAt = (n: number): Promise<void> => driver.switchTo().window(windows[n] ?? '');
  const gapCell = By.xpath(
    `//div[@data-row][.//span[@class="part-name" and text()="Marrow Isle tiles"]]//*[@data-cell="gap"]`,
  );
  const gap = (): Promise<string> => driver.findElement(gapCell).getText();
  const setGap = async (px: string): Promise<void> => {
    await page.choose('Marrow Isle tiles');
    await press(driver, gapCell);
    await driver.actions().sendKeys(px, Key.ENTER).perform();
    await page.seen('[role="status"]', 'saved');
  };
  const isGap = (px: string) => driver.wait(async () => (await gap()) === px, WAIT, `a gap of ${px}`);

  test('what is written in one is seen in the other, both ways', async () => {
    await lookAt(0);
    await setGap('33');
    await lookAt(1);
    await isGap('33');
    await setGap('12');
    await lookAt(0);
    await isGap('12');
  });

  test('edits of both stay, and each window takes back its own', async () => {
    await lookAt(0);
    await page.choose('Next sailings');
    await driver.actions().sendKeys(Key.ENTER).perform();
    await driver.actions().sendKeys('Heading', Key.ENTER).perform();
    await page.seen('[role="status"]', 'saved');
    await lookAt(1);
    await page.choose('Heading');
    await press(driver, By.xpath('//button[.="Undo"]'));
    await isGap('33');
    await lookAt(0);
    await isGap('33');
    expect(
      await driver.findElements(By.xpath('//span[@class="part-name" and text()="Heading"]')),
    ).toHaveLength(1);
  });

  test('the state is said, and one that the other took away is told, not dropped in silence', async () => {
    await lookAt(0);
    await page.choose('Marrow Isle tiles');
    await driver.actions().sendKeys(Key.DELETE).perform();
    await page.seen('[role="status"]', 'saved');
    await lookAt(1);
    await driver.wait(async () => (await driver.findElements(gapCell)).length === 0, WAIT);
    // What this window did to it before can no longer be done again.
    await press(driver, By.xpath('//button[.="Redo"]'));
    await page.seen('[role="alert"]', 'can no longer be done again');
  });
});
