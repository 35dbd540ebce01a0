import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const WAIT = 60_000;

describe('tokens and breakpoints', () => {
  let driver: WebDriver;
  let folder: string;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let find: ReturnType<typeof pageOf>['find'];
  let seen: ReturnType<typeof pageOf>['seen'];
  let boxes: ReturnType<typeof pageOf>['boxes'];
  let setWidth: ReturnType<typeof pageOf>['setWidth'];

  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'tinfold-tokens-'));
    application = await startApplication(inject('postgresUrl'));
    const own = await openBrowser();
    await own.sendDevToolsCommand('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
    driver = own;
    ({ find, seen, boxes, setWidth } = pageOf(driver));
    await driver.get(application.url);
    await pageOf(driver).importBoard();
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
    await rm(folder, { recursive: true, force: true });
  });

  const tab = (word: string): Promise<void> =>
    press(
      driver,
      By.xpath(`//button[contains(@class,"ledger-tab") and starts-with(normalize-space(),"${word}")]`),
    );
  const field = (label: string): Promise<WebElement> => find(`input[aria-label="${label}"]`);
  const type = async (label: string, text: string): Promise<void> => {
    await (await field(label)).sendKeys(Key.chord(Key.CONTROL, 'a'), text, Key.ENTER);
  };
  const gapOf = async (): Promise<number> => {
    await tab('Parts');
    const [a, b] = await boxes(['Next sailings', 'Marrow Isle tiles']);
    return Math.round((b?.y ?? 0) - (a?.y ?? 0) - (a?.height ?? 0));
  };
  const colourOf = (words: string): Promise<string> =>
    driver.executeScript(
      `return getComputedStyle([...document.querySelectorAll('.sheet-live [data-part] span')].find((s) => s.textContent === arguments[0])).color`,
      words,
    );

  test('what repeats gets its name, and changes everywhere', async () => {
    const before = await boxes(['Marrow Isle tiles', 'Pier 1 is closed for notice']);
    await tab('Tokens');
    await press(driver, By.xpath('//button[starts-with(normalize-space(),"Name all")]'));
    await driver.wait(
      async () => (await driver.findElements(By.css('.token-offers'))).length === 0,
      WAIT,
      'nothing is offered any more',
    );
    await tab('Parts');
    const after = await boxes(['Marrow Isle tiles', 'Pier 1 is closed for notice']);
    for (const [i, { y, height }] of after.entries())
      expect([Math.round(y), Math.round(height)]).toEqual([
        Math.round(before[i]?.y ?? NaN),
        Math.round(before[i]?.height ?? NaN),
      ]);
    await tab('Tokens');
    await type('Name of the token space-24', 'Section Gap');
    await type('section-gap in px', '40');
    expect(await (await field('section-gap in px')).getAttribute('value')).toBe('40');
    await tab('Parts');
    const [frame] = await driver.findElements(By.css('[data-row] .cell-token[data-cell="gap"]'));
    expect(await frame?.getAttribute('title')).toContain('section-gap');
    const [tiles] = await boxes(['Marrow Isle tiles']);
    expect(tiles?.y).toBeGreaterThan(before[0]?.y ?? Infinity);
  });

  test('a wrong value is refused with the reason', async () => {
    await tab('Tokens');
    await type('section-gap in px', 'wide');
    await seen('.refusal', 'type a number of px');
    await (await field('section-gap in px')).sendKeys(Key.ESCAPE);
  });

  test('a colour has a proposed value in the dark, which the sheet shows', async () => {
    const light = await colourOf('Next sailings');
    await press(driver, By.xpath('//button[.="Propose dark values"]'));
    await find('.colour-modes');
    await driver.wait(async () => (await colourOf('Next sailings')) !== light, WAIT);
    await find('.weak-words');
    await press(driver, By.css('.weak-words button'));
    // It leads to the part whose words they are.
    await driver.wait(until.elementLocated(By.css('.parts [aria-selected="true"]')), WAIT);
    const mode = await find('.colour-modes');
    await mode.sendKeys('own');
    await driver.wait(async () => (await colourOf('Next sailings')) === light, WAIT);
  });

  test('they leave as a file and come in from one', async () => {
    await tab('Tokens');
    await press(driver, By.xpath('//button[.="Export"]'));
    const exported = async () => (await readdir(folder)).find((f) => f.endsWith('.tokens.json'));
    await driver.wait(async () => (await exported()) !== undefined, WAIT, 'the file is there');
    const name = path.join(folder, (await exported()) ?? '');
    const tokens = JSON.parse(await readFile(name, 'utf8')) as Record<string, { $value: unknown }>;
    expect(tokens['section-gap']).toMatchObject({ $type: 'dimension', $value: { value: 40, unit: 'px' } });
    await writeFile(
      name,
      JSON.stringify({ 'section-gap': { $type: 'dimension', $value: '32px' }, odd: { $value: 3 } }),
    );
    await (await find('input[aria-label="Import design tokens"]')).sendKeys(name);
    await seen('.outcome', '1 tokens of');
    await seen('.outcome', '“odd” is no length in px or rem and no colour.');
    expect(await (await field('section-gap in px')).getAttribute('value')).toBe('32');
  });

  test('one that is taken away leaves its value; all of it is taken back', async () => {
    await press(driver, By.css('button[aria-label="Take the token section-gap away"]'));
    await driver.wait(
      async () => (await driver.findElements(By.css('[data-token="section-gap"]'))).length === 0,
      WAIT,
    );
    expect(await gapOf()).toBeGreaterThan(0);
    await press(driver, By.xpath('//button[.="Edits"]'));
    await press(driver, By.xpath('//ol[@class="edits"]//button[.="As it was opened"]'));
    await tab('Tokens');
    await find('.token-offers');
    await seen('[role="status"]', 'saved');
  });

  test('a breakpoint is moved along the rail by its grip, and taken away by a key', async () => {
    const breakpoint = async (): Promise<number[]> =>
      Promise.all(
        (await driver.findElements(By.css('.rail-turn'))).map(async (t) =>
          Number(await t.getAttribute('aria-valuenow')),
        ),
      );
    const before = await breakpoint();
    expect(before.length).toBeGreaterThan(0);
    const [grip] = await driver.findElements(By.css('.rail-turn'));
    if (!grip) throw new Error('There is no grip on the rail.');
    await driver.actions().move({ origin: grip }).press().move({ origin: grip, x: 24, y: 0 }).perform();
    await seen('.rail-turn-number', 'below');
    await driver.actions().release().perform();
    await driver.wait(async () => (await breakpoint())[0] !== before[0], WAIT);
    const moved = (await breakpoint())[0] ?? 0;
    expect(moved).toBeGreaterThan(before[0] ?? Infinity);
    await driver.executeScript(`document.querySelector('.rail-turn').focus()`);
    await driver.actions().sendKeys(Key.ARROW_LEFT).perform();
    await driver.wait(async () => (await breakpoint())[0] === moved - 1, WAIT);
    await driver.executeScript(`document.querySelector('.rail-turn').focus()`);
    await driver.actions().sendKeys(Key.DELETE).perform();
    await driver.wait(async () => (await breakpoint()).length === before.length - 1, WAIT);
    await setWidth(1280);
  });
});
