import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf, type Box } from './support/page.js';
import { press } from './support/press.js';

const WAIT = 60_000;

describe('the pointer on the sheets', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let find: ReturnType<typeof pageOf>['find'];
  let seen: ReturnType<typeof pageOf>['seen'];
  let boxes: ReturnType<typeof pageOf>['boxes'];
  let choose: ReturnType<typeof pageOf>['choose'];
  let setWidth: ReturnType<typeof pageOf>['setWidth'];
  let sheet: WebElement;

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    ({ find, seen, boxes, choose, setWidth } = pageOf(driver));
    await driver.get(application.url);
    await pageOf(driver).importBoard();
    await press(driver, By.xpath('//*[contains(@class,"sheets-bar")]//*[text()="Reflowed"]'));
    sheet = await find('figure[aria-label^="The structure"] .sheet-frame');
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const scale = async (): Promise<number> =>
    Number((await (await find('.sheets-scale output')).getText()).replace(/\D/g, '')) / 100;
  const box = async (name: string): Promise<Box> => {
    const [found] = await boxes([name]);
    if (!found) throw new Error(`${name} is not on the sheet.`);
    return found;
  };
  /** A place in px of the frame as one from the middle of the sheet, as the pointer goes. */
  const at = async (x: number, y: number) => {
    const { width, height } = await sheet.getRect();
    const s = width / 1280;
    return { origin: sheet, x: Math.round(x * s - width / 2), y: Math.round(y * s - height / 2) };
  };
  const middle = ({ x, y, width, height }: Box) => at(x + width / 2, y + height / 2);
  const inHand = async (): Promise<string> =>
    (
      await driver.wait(until.elementLocated(By.css('.parts [aria-selected="true"] .part-name')), WAIT)
    ).getText();
  const isInHand = (name: string) =>
    driver.wait(async () => (await inHand().catch(() => '')) === name, WAIT, `${name} in hand`);
  const undo = (): Promise<void> => press(driver, By.xpath('//button[.="Undo"]'));

  test('a click goes one further in each time, a double click to the innermost', async () => {
    const words = await middle(await box('Sailings'));
    await driver.actions().move(words).click().perform();
    await isInHand('Top bar');
    await driver.actions().move(words).click().perform();
    await isInHand('Sailings links');
    await driver
      .actions()
      .move(await middle(await box('Next sailings')))
      .doubleClick()
      .perform();
    await isInHand('Next sailings');
    await driver.actions().move(words).doubleClick().perform();
    await isInHand('Sailings');
  });

  test('what is pointed at tells its distances, and those to the part in hand', async () => {
    await driver
      .actions()
      .move(await middle(await box('Next sailings')))
      .click()
      .perform();
    await isInHand('Next sailings');
    const [above, below] = await boxes(['Next sailings', 'Marrow Isle tiles']);
    await driver
      .actions()
      .move(await at((below?.x ?? 0) + 6, (below?.y ?? 0) + 4))
      .perform();
    const gap = Math.round((below?.y ?? 0) - (above?.y ?? 0) - (above?.height ?? 0));
    await seen('.sheet-said', `↓ ${gap}`);
    expect(await driver.findElements(By.css('[data-distance="bottom"]'))).toHaveLength(1);
  });

  test('a frame drawn round parts takes them in hand', async () => {
    const tile = await box('Marrow Isle tiles');
    const from = await at(tile.x - 12, tile.y - 6);
    const to = await at(tile.x + tile.width / 2 - 5, tile.y + tile.height + 6);
    await driver
      .actions()
      .move(from)
      .press()
      .move({ ...from, x: from.x + 9 })
      .move(to)
      .perform();
    await find('.sheet-drawn');
    await driver.actions().release().perform();
    await seen('.operations-hand', '2 parts in hand');
  });

  test('a part in hand is carried to another place, and back by undo', async () => {
    const [heading, notice] = await boxes(['Next sailings', 'Pier 1 is closed for notice']);
    if (!heading || !notice) throw new Error('The parts are not on the sheet.');
    await driver
      .actions()
      .move(await middle(heading))
      .doubleClick()
      .perform();
    await isInHand('Next sailings');
    const to = await at(20, notice.y + notice.height + 4);
    const from = await middle(heading);
    await driver
      .actions()
      .move(from)
      .press()
      .move({ ...from, y: from.y + 9 })
      .move(to)
      .perform();
    await find('[data-landing]');
    await driver.actions().release().perform();
    await driver.wait(async () => (await box('Next sailings')).y > (await box('Marrow Isle tiles')).y, WAIT);
    await undo();
    await driver.wait(async () => Math.abs((await box('Next sailings')).y - heading.y) < 1, WAIT);
  });

  test('lines of a grid and the columns that a part takes are dragged', async () => {
    await choose('Marrow Isle tiles');
    await driver.actions().keyDown(Key.CONTROL).sendKeys('.').keyUp(Key.CONTROL).perform();
    await find('.palette input');
    await driver.actions().sendKeys('column less', Key.ENTER).perform();
    await seen('.refusal', 'as many as there is room for');
    // The list gives the focus back once it is gone.
    await driver.wait(async () => (await driver.findElements(By.css('.palette'))).length === 0, WAIT);
    const line = await find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('cols 4', Key.ENTER);
    await find('[data-handle="line-1"]');
    const before = await box('Marrow Isle tile');
    const handle = await find('[data-handle="line-1"]');
    await driver.actions().move({ origin: handle }).press().move({ origin: handle, x: 20, y: 0 }).perform();
    await seen('.drag-number', 'column 1 of Marrow Isle tiles');
    await driver.actions().release().perform();
    const s = await scale();
    await driver.wait(
      async () => Math.abs((await box('Marrow Isle tile')).width - before.width - 20 / s) < 6,
      WAIT,
    );
    await undo();
    await choose('Marrow Isle tile');
    const edge = await find('[data-handle="span"]');
    await driver
      .actions()
      .move({ origin: edge })
      .press()
      .move({ origin: edge, x: Math.round(before.width * s), y: 0 })
      .release()
      .perform();
    await driver.wait(async () => (await box('Marrow Isle tile')).width > before.width * 1.9, WAIT);
    await undo();
  });

  test('a largest size is dragged from the edge with Shift, and then by its own line', async () => {
    await choose('Pier 1 is closed for notice');
    const before = await box('Pier 1 is closed for notice');
    const s = await scale();
    const edge = await find('[data-handle="width"]');
    await driver
      .actions()
      .keyDown(Key.SHIFT)
      .move({ origin: edge })
      .press()
      .move({ origin: edge, x: -40, y: 0 })
      .perform();
    await seen('.drag-number', 'largest width of Pier 1');
    await driver.actions().release().keyUp(Key.SHIFT).perform();
    const narrower = before.width - 40 / s;
    await driver.wait(
      async () => Math.abs((await box('Pier 1 is closed for notice')).width - narrower) < 3,
      WAIT,
    );
    // At its limit the edge is that of the size; where it is far from it, the limit has a line.
    const line = await find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('w 200', Key.ENTER);
    const limit = await find('[data-handle="maxWidth"]');
    await find('.limit-line');
    await driver
      .actions()
      .move({ origin: limit, x: 0, y: 0 })
      .press()
      .move({ origin: limit, x: 24, y: 0 })
      .perform();
    await seen('.drag-number', 'largest width of Pier 1');
    await driver.actions().release().perform();
    expect((await box('Pier 1 is closed for notice')).width).toBe(200);
    for (let i = 0; i < 3; i++) await undo();
    await driver.wait(
      async () => Math.abs((await box('Pier 1 is closed for notice')).width - before.width) < 1,
      WAIT,
    );
  });

  test('cells of a grid are merged by drawing over them, and one edit takes it back', async () => {
    await choose('Marrow Isle tiles');
    const line = await find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('cols 4', Key.ENTER);
    const [first] = await boxes(['Marrow Isle tile']);
    if (!first) throw new Error('The tile is not on the sheet.');
    const from = await at(first.x + 8, first.y + 8);
    const to = await at(first.x + first.width * 1.5, first.y + 20);
    await driver
      .actions()
      .keyDown(Key.ALT)
      .move(from)
      .press()
      .move({ ...from, x: from.x + 9 })
      .move(to)
      .release()
      .keyUp(Key.ALT)
      .perform();
    await driver.wait(async () => (await box('Marrow Isle tile')).width > first.width * 1.9, WAIT);
    await undo();
    await driver.wait(
      async () => Math.abs((await box('Marrow Isle tile')).width - first.width) < 1,
      WAIT,
      'the cells are apart again',
    );
    await undo();
  });

  test('rules turn in a frame that is wider than high, seen where it has a height', async () => {
    await choose('Top bar');
    const holds = await find('.holds');
    await press(driver, By.css('.frame-height'));
    await (await find('input.frame-height')).sendKeys('300', Key.ENTER);
    await press(driver, By.css('.holds'));
    await press(driver, By.css('.holds'));
    await seen('.holds', 'wider than high');
    const line = await find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('h 120', Key.ENTER);
    await driver.wait(async () => Math.abs((await box('Top bar')).height - 120) < 1, WAIT);
    await press(driver, By.css('.frame-height'));
    await (await find('input.frame-height')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.DELETE, Key.ENTER);
    await driver.wait(async () => (await box('Top bar')).height < 100, WAIT);
    expect(await holds.getText()).toContain('everywhere');
    await undo();
  });

  test('laid over, what stands elsewhere than drawn is marked with both places', async () => {
    await choose('Marrow Isle tiles');
    // Edits that were to hold from here down have moved the caliper to where they would be seen.
    await setWidth(1280);
    await press(driver, By.xpath('//*[contains(@class,"sheets-bar")]//*[text()="Laid over"]'));
    expect(await driver.findElements(By.css('[data-difference]'))).toHaveLength(0);
    const line = await find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('gap 40', Key.ENTER);
    await find('[data-difference]');
    await find('.mark-differs');
    await undo();
    await driver.wait(
      async () => (await driver.findElements(By.css('[data-difference], .mark-differs'))).length === 0,
      WAIT,
    );
    await press(driver, By.xpath('//*[contains(@class,"sheets-bar")]//*[text()="Reflowed"]'));
  });

  test('in a frame of a height the sheet is scrolled, and what stays is seen all the time', async () => {
    await choose('Top bar');
    const line = await find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('stay top', Key.ENTER);
    await press(driver, By.css('.frame-height'));
    await (await find('input.frame-height')).sendKeys('300', Key.ENTER);
    await find('.sheet-window');
    const before = await box('Top bar');
    const s = await scale();
    await driver.executeScript(`document.querySelector('.sheet-window').scrollTop = arguments[0]`, 120 * s);
    // It stands no nearer to the top than it was drawn, and moves with what is seen of the frame.
    await driver.wait(
      async () => Math.abs((await box('Top bar')).y - Math.max(before.y, 120)) < 2,
      WAIT,
      'the bar stays in sight',
    );
    await press(driver, By.css('.frame-height'));
    await (await find('input.frame-height')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.DELETE, Key.ENTER);
    await driver.wait(async () => (await driver.findElements(By.css('.sheet-window'))).length === 0, WAIT);
  });
});
