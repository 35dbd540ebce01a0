import { unzipSync } from 'fflate';
import { By, Key, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const WAIT = 60_000;

describe('the stage at which a screen leaves', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let page: ReturnType<typeof pageOf>;

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    page = pageOf(driver);
    await driver.get(application.url);
    await page.importBoard();
    await page.choose('Marrow Isle tiles');
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const stage = (name: string) => press(driver, By.xpath(`//nav[contains(@class,"stages")]//a[.="${name}"]`));
  const inside = <T>(script: string, ...args: unknown[]): Promise<T> =>
    driver.executeScript<T>(
      `const inside = document.querySelector('.preview-page').contentDocument; ${script}`,
      ...args,
    );
  const until = (what: () => Promise<boolean>, words: string) =>
    driver.wait(() => what().catch(() => false), WAIT, words);

  const setWidth = async (width: number): Promise<void> => {
    const input = await page.find('input[aria-label="Type a frame width"]');
    await input.click();
    await input.sendKeys(Key.chord(Key.CONTROL, 'a'), String(width), Key.ENTER);
  };

  test('shows the page in a frame where nothing runs, at the width of the caliper', async () => {
    await stage('Handoff');
    await page.find('.preview-page');
    await until(
      async () => (await inside<number>('return inside.querySelectorAll("[data-part]").length')) > 20,
      'the page',
    );
    expect(await (await page.find('.preview-page')).getAttribute('sandbox')).toBe('allow-same-origin');
    const width = () => inside<number>('return inside.documentElement.clientWidth');
    expect(await width()).toBe(1280);
    const columns = () =>
      inside<number>(
        'return new Set([...inside.querySelectorAll("li")].map((e) => e.getBoundingClientRect().x)).size',
      );
    expect(await columns()).toBe(4);
    await setWidth(600);
    await until(async () => (await width()) === 600 && (await columns()) < 4, 'the page follows the caliper');
    await setWidth(1280);
  });

  test('shows the code of what is pointed at on the page', async () => {
    await inside('inside.querySelector("li").click()');
    await page.seen('.code h2', 'Marrow Isle tile');
    await page.seen('.code-lines', '.marrow-isle-tile {');
    await press(driver, By.xpath('//*[contains(@class,"code")]//*[text()="index.html"]'));
    await page.seen('.code-lines', '<li class="marrow-isle-tile">');
    await press(driver, By.xpath('//*[contains(@class,"code")]//*[text()="styles.css"]'));
    expect(await inside<number>('return inside.querySelectorAll("[data-in-hand]").length')).toBe(1);
  });

  test('says what is open, hands over what is chosen, and tells what has changed since', async () => {
    await page.seen('.handoff-open', 'Proved');
    await press(driver, By.xpath('//button[starts-with(normalize-space(), "Hand over rev 0")]'));
    const link = await page.find('.leaving-before a');
    const bytes = await driver.executeAsyncScript<number[]>(
      'const [url, done] = arguments; fetch(url).then((r) => r.arrayBuffer()).then((b) => done([...new Uint8Array(b)]));',
      await link.getAttribute('href'),
    );
    expect(Object.keys(unzipSync(new Uint8Array(bytes)))).toEqual(
      expect.arrayContaining(['html/index.html', 'html/styles.css', 'spec/spec.html', 'tokens/tokens.json']),
    );
    await page.seen('.changed', 'Nothing has changed.');
    await stage('Structure');
    await page.choose('Marrow Isle tiles');
    const line = await page.find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('gap 32', Key.ENTER);
    await stage('Handoff');
    await page.seen('.changed li button', 'Marrow Isle tiles');
    await page.seen('.changed li', 'gap: ');
    await press(driver, By.css('.changed li button'));
    await until(
      async () => (await driver.findElements(By.css('.code-lines [data-new="true"]'))).length > 0,
      'the changed line is marked',
    );
    const marked = await driver.findElements(By.css('.code-lines [data-new="true"]'));
    expect((await Promise.all(marked.map((m) => m.getText()))).join('\n')).toContain('32px');
  });
});
