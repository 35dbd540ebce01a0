import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf, type Box } from './support/page.js';
import { press } from './support/press.js';

const WAIT = 60_000;

describe('a structure is made right by hand', () => {
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
    await driver.get(application.url);
    await pageOf(driver).importBoard();
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const nameOf = (name: string): By =>
    By.xpath(
      `//div[@data-row][.//span[@class="part-name" and text()="${name}"]]//*[contains(@class,"part-name")]`,
    );
  const row = (name: string): Promise<WebElement> =>
    driver.wait(
      until.elementLocated(By.xpath(`//div[@data-row][.//span[@class="part-name" and text()="${name}"]]`)),
      WAIT,
    );
  const level = async (name: string): Promise<number> =>
    Number(await (await row(name)).getAttribute('aria-level'));
  const choose = async (...names: readonly string[]): Promise<void> => {
    for (const [i, name] of names.entries()) {
      // The titles of the list may stand over a row that is in sight.
      await driver.executeScript(`arguments[0].scrollIntoView({ block: 'center' })`, await row(name));
      if (i > 0) await driver.actions().keyDown(Key.CONTROL).perform();
      await press(driver, nameOf(name));
      if (i > 0) await driver.actions().keyUp(Key.CONTROL).perform();
    }
  };
  const chord = (...keys: readonly string[]): Promise<void> => {
    const actions = driver.actions();
    for (const k of keys.slice(0, -1)) actions.keyDown(k);
    actions.sendKeys(keys.at(-1) ?? '');
    for (const k of keys.slice(0, -1)) actions.keyUp(k);
    return actions.perform();
  };
  const operation = (label: string): Promise<void> =>
    press(driver, By.xpath(`//div[contains(@class,"operations-strip")]//button[.="${label}"]`));
  const undo = (): Promise<void> => press(driver, By.xpath('//button[.="Undo"]'));
  const near = (a: readonly Box[], b: readonly Box[]): void => {
    for (const [i, box] of a.entries())
      for (const side of ['x', 'y', 'width', 'height'] as const)
        expect(Math.abs(box[side] - (b[i]?.[side] ?? NaN)), `${side} of ${i}`).toBeLessThan(0.75);
  };
  const WATCHED = ['Next sailings', 'Marrow Isle tiles', 'Next boat to Marrow picture', 'Sign in button'];

  test('parts are put together as they lie, nothing moves, and the container is dissolved again', async () => {
    const before = await boxes(WATCHED);
    const depth = await level('Next sailings');
    await choose('Next sailings', 'Marrow Isle tiles');
    await seen('.operations-hand', '2 parts in hand');
    await operation('Put together');
    await seen('.outcome', 'Nothing moved at the drawn widths');
    expect(await level('Next sailings')).toBe(depth + 1);
    near(await boxes(WATCHED), before);
    await operation('Dissolve');
    await seen('.outcome', 'Dissolve “Column”');
    expect(await level('Next sailings')).toBe(depth);
    near(await boxes(WATCHED), before);
  });

  test('a part is named in place, and Tab goes on to the next', async () => {
    await choose('Next sailings');
    await chord(Key.ENTER);
    await driver.actions().sendKeys('Heading', Key.TAB).perform();
    await row('Heading');
    const next = await driver.findElement(By.css('[aria-selected="true"] .part-name'));
    expect(await next.getText()).toBe('Marrow Isle tiles');
  });

  test('parts are moved out, in, forward and back by keys, and all of it is taken back', async () => {
    await choose('Sailings');
    const depth = await level('Sailings');
    await chord(Key.ALT, Key.ARROW_LEFT);
    await driver.wait(async () => (await level('Sailings')) === depth - 1, WAIT);
    await chord(Key.ALT, Key.ARROW_RIGHT);
    await driver.wait(async () => (await level('Sailings')) === depth, WAIT);
    await undo();
    await undo();
    await choose('Fares');
    const order = async () => (await boxes(['Sailings', 'Fares'])).map((b) => b.x);
    const [a = 0, b = 0] = await order();
    expect(a).toBeLessThan(b);
    await chord(Key.ALT, Key.ARROW_UP);
    await driver.wait(async () => {
      const [x = 0, y = 0] = await order();
      return y < x;
    }, WAIT);
    await undo();
    await driver.wait(async () => {
      const [x = 0, y = 0] = await order();
      return x < y;
    }, WAIT);
  });

  test('a row is dragged into another container', async () => {
    const [from, to] = await Promise.all([
      driver.findElement(nameOf('Help')),
      driver.findElement(nameOf('Kittiwake Line label')),
    ]);
    await driver
      .actions()
      .move({ origin: from })
      .press()
      .move({ origin: to, x: 0, y: -8 })
      .move({ origin: to })
      .perform();
    expect(await (await row('Kittiwake Line label')).getAttribute('data-drop')).toBe('into');
    await driver.actions().release().perform();
    await seen('.outcome', 'Move “Help” into “Kittiwake Line label”');
    expect(await level('Help')).toBe((await level('Kittiwake Line label')) + 1);
    await undo();
  });

  test('a part leaves the flow, pinned, and comes back; its neighbours stay both times', async () => {
    const neighbours = ['Next boat to Marrow section', 'Next boat to Marrow picture'];
    const before = await boxes(neighbours);
    await choose('Next boat to Marrow picture');
    await operation('Pin');
    await seen('.outcome', 'Pin “Next boat to Marrow picture” out of the flow');
    expect(await driver.findElements(By.css('[data-handle^="pin-"]'))).not.toHaveLength(0);
    near((await boxes(neighbours)).slice(1), before.slice(1));
    await chord(Key.ALT, 'b');
    await seen('.outcome', 'back into the flow');
    near((await boxes(neighbours)).slice(1), before.slice(1));
    await undo();
    await undo();
    near(await boxes(neighbours), before);
  });

  test('gaps, paddings and edges are dragged, the number is shown meanwhile, and each drag is one edit', async () => {
    await press(driver, By.xpath('//*[contains(@class,"sheets-bar")]//*[text()="Reflowed"]'));
    await choose('Next boat to Marrow section');
    const own = ['Next boat to Marrow Isle', 'Leaves 14:20 from pier 2.'];
    const distance = async (): Promise<number> => {
      const [a, b] = await boxes(own);
      return Math.round((b?.y ?? 0) - (a?.y ?? 0) - (a?.height ?? 0));
    };
    const gap = await distance();
    const handle = await find('[data-handle^="gap-"]');
    await driver.actions().move({ origin: handle }).press().move({ origin: handle, x: 0, y: 9 }).perform();
    await seen('.drag-number', 'gap before');
    await driver.actions().release().perform();
    await driver.wait(async () => (await distance()) > gap + 5, WAIT);
    await undo();
    await driver.wait(async () => (await distance()) === gap, WAIT);
    // A number that is typed while dragging stands in place of the drag.
    const again = await find('[data-handle^="gap-"]');
    await driver
      .actions()
      .move({ origin: again })
      .press()
      .move({ origin: again, x: 0, y: 5 })
      .sendKeys('31', Key.ENTER)
      .release()
      .perform();
    await driver.wait(async () => (await distance()) === 31, WAIT);
    await undo();
    await choose('Next boat to Marrow picture');
    const [was] = await boxes(['Next boat to Marrow picture']);
    const edge = await find('[data-handle="width"]');
    await driver
      .actions()
      .move({ origin: edge })
      .press()
      .move({ origin: edge, x: -30, y: 0 })
      .release()
      .perform();
    await seen(
      '.parts [aria-selected="true"] [data-cell="width"]',
      String(Math.round((was?.width ?? 0) - 30 / (await scale()))).slice(0, 2),
    );
    await undo();
    await choose('Sign in button');
    const pad = await find('[data-handle="padding-left"]');
    await driver
      .actions()
      .move({ origin: pad })
      .keyDown(Key.SHIFT)
      .press()
      .move({ origin: pad, x: 6, y: 0 })
      .release()
      .keyUp(Key.SHIFT)
      .perform();
    const padding = await (await find('.parts [aria-selected="true"] [data-cell="padding"]')).getText();
    expect(padding.split(' ')).toHaveLength(3);
    expect(Number(padding.split(' ')[1])).toBeGreaterThan(25);
    await undo();
  });

  const scale = async (): Promise<number> =>
    Number((await (await find('.sheets-scale output')).getText()).replace(/\D/g, '')) / 100;

  test('the list is filtered by words and by rules, and folded', async () => {
    const filter = await find('input[aria-label="Filter the parts"]');
    await filter.sendKeys('fixed');
    await driver.wait(async () => (await driver.findElements(By.css('[data-row]'))).length < 20, WAIT);
    await seen('.panel-head', 'of');
    await filter.sendKeys(Key.chord(Key.CONTROL, 'a'), 'no such part');
    await seen('.parts-none', 'No part answers to “no such part”');
    await filter.sendKeys(Key.ESCAPE);
    const all = (await driver.findElements(By.css('[data-row]'))).length;
    await choose('Next boat to Marrow section');
    await chord(Key.ARROW_LEFT);
    await driver.wait(async () => (await driver.findElements(By.css('[data-row]'))).length < all, WAIT);
    await chord(Key.ARROW_RIGHT);
    await driver.wait(async () => (await driver.findElements(By.css('[data-row]'))).length === all, WAIT);
  });

  test('a copy breaks away from its pattern and is one of it again', async () => {
    await choose('Marrow Isle tile');
    await chord(Key.ALT, 'o');
    await row('Low Tarn tile');
    await seen('.copies', '×3');
    await choose('Marrow Isle tile', 'Low Tarn tile');
    await chord(Key.ALT, 'm');
    await seen('.copies', '×4');
    await undo();
    await undo();
    await seen('.copies', '×4');
  });

  test('a number is stepped by the arrows, copied, and taken over in another cell', async () => {
    const cell = (name: string) =>
      By.xpath(`//div[@data-row][.//span[@class="part-name" and text()="${name}"]]//*[@data-cell="gap"]`);
    const gap = (name: string) => driver.findElement(cell(name)).getText();
    // The titles of the list stand over its first row in sight.
    await driver.executeScript(`document.querySelector('.parts-grid').scrollTop = 0`);
    const before = Number(await gap('Marrow Isle tiles'));
    await press(driver, cell('Marrow Isle tiles'));
    await driver.actions().sendKeys(Key.ENTER, Key.ARROW_UP, Key.ARROW_UP, Key.ENTER).perform();
    await driver.wait(async () => Number(await gap('Marrow Isle tiles')) === before + 2, WAIT);
    await chord(Key.CONTROL, 'c');
    await press(driver, cell('Next boat to Marrow section'));
    await chord(Key.CONTROL, 'v');
    await driver.wait(async () => Number(await gap('Next boat to Marrow section')) === before + 2, WAIT);
    await undo();
    await undo();
  });

  test('all commands are found by typing, and the edits lead back to the start', async () => {
    await choose('Marrow Isle tiles');
    await chord(Key.CONTROL, '.');
    await find('.palette input');
    await driver.actions().sendKeys('double gaps').perform();
    await seen('.palette [aria-selected="true"]', 'Double gaps');
    await driver.actions().sendKeys(Key.ENTER).perform();
    await seen('.parts [aria-selected="true"] [data-cell="gap"]', '40');
    await press(driver, By.xpath('//button[.="Edits"]'));
    await press(driver, By.xpath('//ol[@class="edits"]//button[.="As it was opened"]'));
    await driver.wait(until.elementLocated(nameOf('Next sailings')), WAIT);
    await seen('[role="status"]', 'saved');
  });

  test('an edit holds from here down, is marked there, and is given up again', async () => {
    const gap = (): Promise<string> =>
      row('Marrow Isle tiles').then((r) => r.findElement(By.css('[data-cell="gap"]')).getText());
    const isGap = (wanted: string) =>
      driver.wait(async () => (await gap()) === wanted, WAIT, `a gap of ${wanted}`);
    const wide = await gap();
    await setWidth(900);
    await press(driver, By.css('.holds'));
    await seen('.holds', 'below 900');
    await press(
      driver,
      By.xpath('//div[@data-row][.//span[text()="Marrow Isle tiles"]]//*[@data-cell="gap"]'),
    );
    await driver.actions().sendKeys('7', Key.ENTER).perform();
    await isGap('7');
    expect(
      await (await row('Marrow Isle tiles')).findElements(By.css('.cell-below[data-cell="gap"]')),
    ).toHaveLength(1);
    await setWidth(1280);
    await isGap(wide);
    await seen('.holds', 'everywhere');
    await setWidth(800);
    await isGap('7');
    await driver.actions().sendKeys(Key.TAB).perform();
    await press(
      driver,
      By.xpath('//div[@data-row][.//span[text()="Marrow Isle tiles"]]//*[@data-cell="gap"]'),
    );
    await driver.actions().sendKeys(Key.DELETE).perform();
    await isGap(wide);
    await setWidth(1280);
  });

  test('rules are typed for all parts of a name, and a line is typed again', async () => {
    const line = await find('input[aria-label="Type rules for the part in hand"]');
    await line.sendKeys('all picture: max 300', Key.ENTER);
    await driver.wait(
      async () => Math.round((await boxes(['Next boat to Marrow picture']))[0]?.width ?? 0) === 300,
      WAIT,
    );
    await line.sendKeys('all nothing of this name: fill', Key.ENTER);
    await seen('.refusal', 'No part is called “nothing of this name”');
    await line.sendKeys(Key.ESCAPE, Key.ARROW_UP);
    expect(await line.getAttribute('value')).toBe('all picture: max 300');
    await line.sendKeys(Key.ESCAPE);
    await undo();
  });

  test('a part that was made wrong is read again, and everything stands as before', async () => {
    const before = await boxes([...WATCHED, 'Next boat to Marrow section']);
    await press(
      driver,
      By.xpath('//div[@data-row][.//span[text()="Next boat to Marrow section"]]//*[@data-cell="gap"]'),
    );
    await driver.actions().sendKeys('77', Key.ENTER).perform();
    await driver.wait(async () => {
      const now = await boxes(['Next boat to Marrow section']);
      return (now[0]?.height ?? 0) > (before.at(-1)?.height ?? 0) + 20;
    }, WAIT);
    await chord(Key.CONTROL, '.');
    await driver.actions().sendKeys('read again', Key.ENTER).perform();
    await driver.wait(async () => {
      const now = await boxes(['Next boat to Marrow section']);
      return Math.abs((now[0]?.height ?? 0) - (before.at(-1)?.height ?? 0)) < 1;
    }, WAIT);
    near(await boxes(WATCHED), before.slice(0, -1));
  });

  test('columns are chosen, and chosen again after a reload', async () => {
    await press(driver, By.css('.column-button'));
    await press(driver, By.xpath('//*[@class="column-choice"]//label[contains(., "own alignment")]'));
    await find('[role="columnheader"].cell-self');
    await seen('[role="status"]', 'saved');
    await driver.navigate().refresh();
    await find('[role="columnheader"].cell-self');
  });

  test('nothing was complained of in the browser', async () => {
    const entries = await driver.manage().logs().get('browser');
    expect(entries.map((e) => e.message)).toEqual([]);
  });
});
