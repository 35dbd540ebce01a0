import { By, Key, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const WAIT = 60_000;

describe('the revisions of a screen', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let page: ReturnType<typeof pageOf>;

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    page = pageOf(driver);
    await driver.get(application.url);
    await page.importBoard();
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const rows = () => driver.findElements(By.css('.revisions-list button'));
  const words = async (css: string) =>
    Promise.all((await driver.findElements(By.css(css))).map((e) => e.getText()));

  test('each is looked at beside what the screen is now, with what is otherwise in words', async () => {
    await page.choose('Marrow Isle tiles');
    const line = await page.find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('gap 40', Key.ENTER);
    await page.seen('[role="status"]', 'rev 1 · saved');
    await line.sendKeys('gap 48', Key.ENTER);
    await page.seen('[role="status"]', 'rev 2 · saved');
    await press(driver, By.css('.saving a'));
    await page.seen('figure[aria-label^="Rev 1"] figcaption', '1280');
    expect(await rows()).toHaveLength(3);
    expect(await words('.revisions-changes li')).toEqual(['Marrow Isle tiles\ngap: 40 px → 48 px']);
    await (await rows())[2]?.click();
    await page.seen('figure[aria-label^="Rev 0"] figcaption', '1280');
    await driver.wait(
      async () => (await words('.revisions-changes li'))[0]?.includes('→ 48 px') === true,
      WAIT,
    );
  });

  test('two of them are compared, at any width', async () => {
    await (await rows())[1]?.click();
    await page.seen('figure[aria-label^="Rev 1"] figcaption', '1280');
    await press(driver, By.css('.revision-against .ant-select'));
    await press(driver, By.xpath('//*[contains(@class,"ant-select-item-option-content")][.="rev 0"]'));
    await page.seen('figure[aria-label^="Rev 0"] figcaption', '1280');
    await page.seen('.revisions-changes h2', 'Otherwise at rev 0');
    await driver.wait(
      async () => (await words('.revisions-changes li'))[0]?.includes('40 px →') === true,
      WAIT,
    );
    const width = await page.find('input[aria-label="Type a frame width"]');
    await width.click();
    await width.sendKeys(Key.chord(Key.CONTROL, 'a'), '600', Key.ENTER);
    await page.seen('figure[aria-label^="Rev 0"] figcaption', '600');
    await page.seen('figure[aria-label^="Rev 1"] figcaption', '600');
    await (await rows())[2]?.click();
    await page.seen('figure[aria-label^="Now"] figcaption', '600');
  });

  test('one is named, and put in place again as a new revision that is worked on', async () => {
    await (await page.find('.revision-kept input')).sendKeys('As it came', Key.ENTER);
    await page.seen('.revisions-list b', 'As it came');
    await press(driver, By.xpath('//button[normalize-space()="Put rev 0 in place"]'));
    await page.seen('[role="status"]', 'rev 3 · saved');
    await page.choose('Marrow Isle tiles');
    const gap = await page.find('[data-row] [data-current="true"]');
    expect(await gap.getText()).not.toContain('48');
    await press(driver, By.css('.saving a'));
    await page.seen('.revisions-list', 'As it was at rev 0');
    await page.seen('.revisions-list', 'As it came');
  });
});
