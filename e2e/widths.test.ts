import { fileURLToPath } from 'node:url';
import { By, Key, until, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const demo = (name: string): string => fileURLToPath(new URL(`../demo/${name}`, import.meta.url));
const WAIT = 60_000;

describe('questions, and the same screen at another width', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let find: ReturnType<typeof pageOf>['find'];
  let seen: ReturnType<typeof pageOf>['seen'];
  let setWidth: ReturnType<typeof pageOf>['setWidth'];
  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    ({ find, seen, setWidth } = pageOf(driver));
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  /** The width that the boat's picture has in the parts list, px. */
  const pictureWidth = async (): Promise<number> => {
    const now = await driver.findElement(
      By.xpath(
        '//div[@data-row][.//span[@class="part-name" and text()="Next boat to Marrow picture"]]//div[contains(@class, "cell-now")]',
      ),
    );
    return Number((await now.getText()).split(' ')[0]);
  };
  const pictureIs = (holds: (width: number) => boolean): Promise<unknown> =>
    driver.wait(() => pictureWidth().then(holds, () => false), WAIT, 'the picture’s width');

  test('a question shows its answers before one is taken', async () => {
    await driver.get(application.url);
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line', Key.ENTER);
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(demo('departures-1280.svg'));
    await driver.wait(until.urlContains('/screens/'), WAIT);
    await seen('.question-line', 'What happens in narrow frames?');
    await seen('.question-line', '70 % sure');
    expect(await driver.findElements(By.css('.answer .silhouette rect'))).not.toHaveLength(0);
    await setWidth(800);
    await pictureIs((w) => w > 500);
    const [, other] = await driver.findElements(By.css('.answer'));
    await driver.actions().move({ origin: other }).perform();
    await pictureIs((w) => w === 376);
    await driver
      .actions()
      .move({ origin: await find('.panel-head') })
      .perform();
    await pictureIs((w) => w > 500);
    await seen('[role="status"]', 'rev 0');
  });

  test('number keys answer, and an answer is undone whole', async () => {
    await (await find('[role="slider"]')).sendKeys('2');
    await pictureIs((w) => w === 376);
    await seen('[role="status"]', 'rev 1 · saved');
    const part = async () => (await find('.question-part')).getText();
    const another = () =>
      part().then(
        (name) => name !== 'Next boat to Marrow panel',
        () => false,
      );
    await driver.wait(another, WAIT, 'the next question');
    await press(driver, By.xpath('//button[contains(., "Undo")]'));
    await pictureIs((w) => w > 500);
    await seen('.question-part', 'Next boat to Marrow panel');
  });

  test('what speaks for a rule is told, and what else was possible can be taken', async () => {
    await press(
      driver,
      By.xpath(
        '//div[@data-row][.//span[@class="part-name" and text()="Leaves 14:20 from pier 2."]]//*[@data-cell="limits"]',
      ),
    );
    await seen('.why', 'It is 500 px wide where 728 px are free');
    await seen('.why', 'or lines grow with the room');
  });

  test('a drawing of another width is added and answers what was open', async () => {
    await press(driver, By.xpath('//a[text()="Drawing"]'));
    await (
      await find('input[aria-label="Choose a drawing of another width"]')
    ).sendKeys(demo('departures-390.svg'));
    await seen('.drawn-widths', 'drawn at 390');
    await seen('.drawing-sheet header', 'departures-390.svg');
    await press(driver, By.xpath('//a[text()="Structure"]'));
    await seen('.question-line', 'No open question');
    await setWidth(390);
    await seen('figure[aria-label="The drawing at 390"] figcaption', '390 × 1262');
    await setWidth(1280);
    await seen('figure[aria-label="The drawing at 1280"] figcaption', '1280 × 640');
  });

  test('a drawing of the same width is refused with a sentence, and one is taken away', async () => {
    await press(driver, By.xpath('//a[text()="Drawing"]'));
    await (
      await find('input[aria-label="Choose a drawing of another width"]')
    ).sendKeys(demo('boarding-pass-390.svg'));
    await seen('.drawn-widths .refusal', 'Two drawings are 390 px wide');
    await press(driver, By.css('.drawn-widths .ant-segmented-item:nth-of-type(2)'));
    await seen('.drawing-sheet header', 'departures-390.svg');
    await press(driver, By.xpath('//button[contains(., "Take this one away")]'));
    await press(driver, By.xpath('//button[contains(., "Take it away")]'));
    const words = async () => (await find('.drawn-widths')).getText();
    const gone = () =>
      words().then(
        (text) => !text.includes('drawn at 390'),
        () => false,
      );
    await driver.wait(gone, WAIT, 'only one drawing');
  });

  test('nothing was complained of in the browser', async () => {
    const entries = await driver.manage().logs().get('browser');
    expect(entries.map((e) => e.message)).toEqual([]);
  });
});
