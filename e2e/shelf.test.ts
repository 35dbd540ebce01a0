import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { By, Key, until, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const DEPARTURES = fileURLToPath(new URL('../demo/departures-1280.svg', import.meta.url));
const BOARDING = fileURLToPath(new URL('../demo/boarding-pass-390.svg', import.meta.url));
const WAIT = 60_000;

describe('the shelf', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let find: ReturnType<typeof pageOf>['find'];
  let seen: ReturnType<typeof pageOf>['seen'];

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'), { withWorker: true });
    driver = await openBrowser();
    ({ find, seen } = pageOf(driver));
    await driver.get(application.url);
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line', Key.ENTER);
    await seen('h1', 'Kittiwake Line');
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(DEPARTURES);
    await seen('figure[aria-label^="The structure"] figcaption', '1280 × 640');
    await driver.navigate().back();
    await find('.plate .silhouette rect');
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const choose = async (label: string, name: string, action: string): Promise<void> => {
    await press(driver, By.css(`.shelved-more[aria-label="What can be done with the ${label} ${name}"]`));
    await press(driver, By.xpath(`//*[contains(@class,"ant-dropdown")]//*[text()="${action}"]`));
  };
  const names = async (css: string): Promise<string[]> =>
    Promise.all((await driver.findElements(By.css(css))).map((e) => e.getText()));
  const shows = (css: string, wanted: readonly string[]) =>
    driver.wait(
      async () => {
        const now = await names(css).catch(() => []);
        return JSON.stringify([...now].sort()) === JSON.stringify([...wanted].sort());
      },
      WAIT,
      wanted.join(', '),
    );

  test('a screen is named anew in place and copied', async () => {
    const [name = ''] = await names('.plate b');
    await choose('screen', name, 'Name it anew');
    await driver.actions().sendKeys('Departures', Key.ENTER).perform();
    await shows('.plate b', ['Departures']);
    await choose('screen', 'Departures', 'Copy');
    await shows('.plate b', ['Departures', 'Departures, copy']);
  });

  test('a screen goes into the bin and comes back from it', async () => {
    await choose('screen', 'Departures, copy', 'Put into the bin');
    await shows('.plate b', ['Departures']);
    await press(driver, By.css('.top-bar a'));
    await seen('.bin', 'screen of Kittiwake Line');
    await press(driver, By.xpath('//section[@class="bin"]//button[.="Put back"]'));
    await driver.wait(async () => (await driver.findElements(By.css('.bin'))).length === 0, WAIT);
    await seen('.folder-facts', '2 screens');
  });

  test('a project is copied with its screens, and goes into the bin', async () => {
    await choose('project', 'Kittiwake Line', 'Copy');
    await shows('.folder-name', ['Kittiwake Line', 'Kittiwake Line, copy']);
    await choose('project', 'Kittiwake Line', 'Put into the bin');
    await shows('.folder-name', ['Kittiwake Line, copy']);
    await press(driver, By.css('.folder'));
    await shows('.plate b', ['Departures', 'Departures, copy']);
    await driver.wait(until.elementLocated(By.css('.plate .silhouette rect')), WAIT);
  });

  test('a project leaves as one file, and is opened from it', async () => {
    await driver.get(application.url);
    await press(driver, By.css('.shelved-more'));
    const link = await driver.wait(
      until.elementLocated(By.xpath('//*[contains(@class,"ant-dropdown")]//a[.="Save as a file"]')),
      WAIT,
    );
    const bytes = await driver.executeAsyncScript<number[]>(
      'const [url, done] = arguments; fetch(url).then((r) => r.arrayBuffer()).then((b) => done([...new Uint8Array(b)]));',
      await link.getAttribute('href'),
    );
    await driver.actions().sendKeys(Key.ESCAPE).perform();
    const folder = await mkdtemp(path.join(tmpdir(), 'project-'));
    const saved = path.join(folder, 'ferries.zip');
    await writeFile(saved, new Uint8Array(bytes));
    await (await find('input[aria-label="Choose a project file"]')).sendKeys(saved);
    await shows('.plate b', ['Departures', 'Departures, copy']);
    await driver.wait(until.elementLocated(By.css('.plate .silhouette rect')), WAIT);
    await rm(folder, { recursive: true });
  });

  test('several files are read beside; one that cannot be read is told and leaves the others', async () => {
    const folder = await mkdtemp(path.join(tmpdir(), 'drawings-'));
    const broken = path.join(folder, 'broken.svg');
    const nameless = path.join(folder, 'w640.svg');
    await writeFile(broken, 'this is no drawing');
    await writeFile(
      nameless,
      '<svg xmlns="http://www.w3.org/2000/svg" width="640" height="120"><text x="24" y="60" font-size="28">Fares by the day</text></svg>',
    );
    await (
      await find('input[aria-label="Choose a drawing"]')
    ).sendKeys([broken, BOARDING, nameless].join('\n'));
    await shows('.plate b', ['Departures', 'Departures, copy', 'boarding pass', 'Fares by the day']);
    await shows('.jobs li b', ['broken.svg']);
    await seen('.jobs li[data-state="failed"] .job-words', 'The file is no drawing');
    await seen('.jobs h2', 'All done');
    await rm(folder, { recursive: true });
  });

  test('what failed is tried again, and put away', async () => {
    await (await find('.jobs li .ant-btn:not(.ant-btn-text)')).click();
    await find('.jobs li:not([data-state="failed"])');
    await seen('.jobs li[data-state="failed"] .job-words', 'The file is no drawing');
    await (await find('button[aria-label="Put away: broken.svg"]')).click();
    await driver.wait(async () => (await driver.findElements(By.css('.jobs'))).length === 0, WAIT);
  });

  test('all screens are proved beside, and each line leads to its proof', async () => {
    await (await find('.desk-head button')).click();
    await driver.wait(
      async () => (await driver.findElements(By.css('.jobs li[data-state="done"]'))).length === 4,
      60_000,
    );
    expect(await (await find('.jobs li .job-words')).getText()).toMatch(
      /^revision \d+, as it is and in 13 trials: (no faults|\d+ (error|warning|note))/,
    );
    await (await find('.jobs li a')).click();
    await seen('.trials', 'longer text');
    await driver.navigate().back();
    await find('.jobs');
  });

  test('nothing was complained of in the browser', async () => {
    const entries = await driver.manage().logs().get('browser');
    expect(entries.map((e) => e.message)).toEqual([]);
  });
});
