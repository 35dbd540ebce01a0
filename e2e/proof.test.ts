import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { By, Key, until, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { readSeveral } from '@tinfold/core/infer';
import { applyStep, walk } from '@tinfold/core/model';
import { readSources } from '../host/src/reading.js';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';
import { press } from './support/press.js';

const DEPARTURES = fileURLToPath(new URL('../demo/departures-1280.svg', import.meta.url));
const WAIT = 60_000;

/** Reads the board without judging it or minding phones, so that it has faults, and hides its links on phones; tells the id of its screen. */
async function unjudgedScreen(url: string): Promise<string> {
  const source = await readFile(DEPARTURES, 'utf8');
  const { drawings, measurer } = await readSources([{ text: source, name: 'Departures board' }]);
  const [opened] = drawings;
  if (!opened) throw new Error('There is no drawing.');
  const read = readSeveral([opened.drawing], measurer, { without: new Set(['judge', 'phones']) });
  const links = [...walk(read.root)].find((p) => p.name === 'Sailings links');
  const hidden = applyStep(read, {
    kind: 'setRules',
    below: 520,
    parts: [{ id: links?.id ?? '', set: { hidden: true } }],
  });
  if (!hidden.ok) throw new Error(hidden.reason);
  const post = async (path: string, body: unknown): Promise<string> => {
    const response = await fetch(`${url}/api${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    return ((await response.json()) as { id: string }).id;
  };
  const project = await post('/projects', { name: 'Kittiwake Line' });
  const { width, height } = opened.drawing;
  const drawing = { name: 'departures-1280.svg', width, height, source };
  return post(`/projects/${project}/screens`, { name: 'Departures board', drawing, structure: hidden.doc });
}

describe('the stage of proof', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let find: ReturnType<typeof pageOf>['find'];
  let seen: ReturnType<typeof pageOf>['seen'];

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser();
    ({ find, seen } = pageOf(driver));
    await driver.get(application.url);
    await driver.get(`${application.url}/screens/${await unjudgedScreen(application.url)}`);
    await find('[data-item]');
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
  });

  const stage = (name: string) =>
    press(driver, By.xpath(`//nav[contains(@class, "stages")]/a[text()="${name}"]`));
  const caliper = async (): Promise<number> =>
    Number(await (await find('.caliper')).getAttribute('aria-valuenow'));
  const texts = (css: string): Promise<string[]> =>
    driver.executeScript(`return [...document.querySelectorAll(arguments[0])].map((e) => e.innerText)`, css);
  const proved = () => seen('.run-line', 'Every px from 320 to 1920');
  const faultHead = (words: string) =>
    By.xpath(`//article[contains(@class, "fault ")]/button[contains(., "${words}")]`);

  test('the rail shows where it breaks, in Structure and in Proof alike', async () => {
    await driver.wait(until.elementLocated(By.css('.rail-fault.rail-error')), WAIT);
    const band = async () => (await find('.rail-band')).getAttribute('aria-label');
    await stage('Proof');
    await proved();
    const inProof = await band();
    expect(inProof).toMatch(/^Errors at 320–\d+/);
    await stage('Structure');
    await driver.wait(async () => (await band()) === inProof, WAIT);
    await stage('Proof');
    await proved();
  });

  test('a contact sheet shows it at many widths; a click takes the caliper there', async () => {
    const captions = await texts('.contact-caption b');
    expect(captions).toEqual(expect.arrayContaining(['320', '390', '768', '1280', '1920']));
    expect((await texts('.contact-caption span')).join()).toMatch(/narrow phone.*drawn.*wide desk/s);
    await press(driver, By.css('.contact-frame[title="Set the caliper to 320"]'));
    expect(await caliper()).toBe(320);
    expect(
      (await driver.findElements(By.css('.contact-frame[title="Set the caliper to 320"] .fault-box-error')))
        .length,
    ).toBeGreaterThan(0);
    await press(driver, By.xpath('//*[contains(@class, "contact-head")]//*[text()="On its side"]'));
    expect(await texts('.contact-caption b')).toContain('844');
    await press(driver, By.xpath('//*[contains(@class, "contact-head")]//*[text()="Upright"]'));
  });

  test('arrow keys with Shift go from event to event, faults’ edges among them', async () => {
    await (await find('.caliper')).sendKeys(Key.HOME);
    const stops: number[] = [];
    for (let i = 0; i < 8; i++) {
      await (await find('.caliper')).sendKeys(Key.chord(Key.SHIFT, Key.ARROW_RIGHT));
      stops.push(await caliper());
    }
    expect(stops).toEqual([...new Set(stops)].sort((a, b) => a - b));
    expect(stops[0]).toBe(320);
    const [edge] = /–(\d+)/.exec((await texts('.fault-widths'))[0] ?? '')?.slice(1) ?? [];
    expect(stops).toContain(Number(edge));
  });

  test('a fault is looked at, and mended by an answer; one step back undoes it', async () => {
    const before = await texts('.fault-words');
    await press(driver, faultHead('Low Tarn'));
    expect(await caliper()).toBe(320);
    await driver.wait(until.elementLocated(By.css('.fault-body .answer-note')), WAIT);
    expect((await texts('.fault-body .answer-note'))[0]).toMatch(/^7 → \d faults$/);
    expect((await driver.findElements(By.css('.fault-body .answer:first-child .silhouette'))).length).toBe(3);
    await press(driver, By.css('.fault-body .answer:first-child .answer-take'));
    await driver.wait(async () => (await texts('.fault-words')).every((w) => !w.includes('Low Tarn')), WAIT);
    await seen('.saving', 'rev 1 · saved');
    await press(driver, By.xpath('//button[.="Undo"]'));
    await driver.wait(async () => (await texts('.fault-words')).join() === before.join(), WAIT);
  });

  test('the stages share the part in hand and the caliper', async () => {
    await press(driver, faultHead('Pier 1 is closed'));
    const width = await caliper();
    await stage('Structure');
    await driver.wait(until.elementLocated(By.css('[data-row][aria-selected="true"]')), WAIT);
    expect((await texts('[data-row][aria-selected="true"] .part-name'))[0]).toMatch(/^Pier 1 is closed/);
    expect(await caliper()).toBe(width);
    await stage('Proof');
    await proved();
    expect(await caliper()).toBe(width);
  });

  test('charts answer the pointer and have a table beside them', async () => {
    const chart = await find('.chart canvas');
    await driver.actions().move({ origin: chart, x: 200, y: 0 }).click().perform();
    expect(await caliper()).toBeGreaterThan(900);
    await press(driver, By.css('.charts-table-switch'));
    expect((await texts('.chart-table tbody tr')).join('\n')).toMatch(
      /Words squeezed to a sliver\s+error\s+320–\d+/,
    );
    await press(driver, By.xpath('//*[contains(@class, "charts")]//*[text()="Part in hand"]'));
    await driver.wait(async () => (await texts('.chart-table tbody tr')).length > 10, WAIT);
    expect((await texts('.chart-table th')).join()).toBe('Frame,Width,Height,Gaps');
    await press(driver, By.css('.charts-table-switch'));
    await press(driver, By.xpath('//*[contains(@class, "charts")]//*[text()="Over revisions"]'));
    await find('.chart canvas');
    await press(driver, By.xpath('//*[contains(@class, "charts")]//*[text()="By kind"]'));
  });

  test('a trial brings faults of its own, told with its name', async () => {
    await press(driver, By.xpath('//*[contains(@class, "trials")]//label[contains(., "right to left")]'));
    await seen('.fault-list', 'right to left');
    await press(driver, By.xpath('//*[contains(@class, "trials")]//label[contains(., "longer text")]'));
    const percent = await find('input[aria-label="longer text: %"]');
    await percent.sendKeys(Key.chord(Key.CONTROL, 'a'), '80', Key.TAB);
    await proved();
    await seen('.fault-list', 'longer text');
    for (const name of ['right to left', 'longer text'])
      await press(driver, By.xpath(`//*[contains(@class, "trials")]//label[contains(., "${name}")]`));
    await driver.wait(async () => !(await texts('.fault-list')).join().includes('right to left'), WAIT);
  });

  test('expectations are typed or proposed, held after each edit, and the edit that breaks one is named', async () => {
    const add = async (sentence: string) => {
      const input = await find('input[aria-label="A new expectation"], .expectation-add input');
      await input.sendKeys(sentence, Key.ENTER);
    };
    await add('no side scroll');
    await seen('.expectation-holds', 'no side scroll 320–1920');
    await add('be nice');
    await seen('.expectations .refused', 'is no expectation');
    await (await find('.expectation-add input')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.DELETE);
    await press(driver, By.xpath('//button[.="Propose"]'));
    await seen('.expectation-list', 'as drawn at 1280');
    await proved();
    await stage('Structure');
    await press(
      driver,
      By.xpath(
        '//div[@data-row][.//span[@class="part-name" and text()="Marrow Isle tiles"]]//*[@data-cell="gap"]',
      ),
    );
    await driver.actions().sendKeys('44', Key.ENTER).perform();
    await seen('.saving', 'saved');
    await stage('Proof');
    await seen('.expectation-broken', 'as drawn at 1280');
    expect((await texts('.expectation-broken')).join()).toMatch(
      /broken at 1280, up to [\d.]+ px: “.*”.*, by “.*gap.*”/,
    );
    await press(driver, By.xpath('//button[.="Undo"]'));
    await driver.wait(async () => (await texts('.expectation-broken')).length === 0, WAIT);
  });

  test('a fault is left so with a reason, and stays away when the page comes again', async () => {
    await proved();
    await press(driver, faultHead('Sailings links'));
    // The list may be drawn anew just as the button is pressed: then it is pressed once more.
    const field = By.css('input[aria-label="Why it is left so"]');
    await driver.wait(async () => {
      if ((await driver.findElements(field)).length > 0) return true;
      await press(driver, By.xpath('//button[contains(., "Leave it so")]'));
      return false;
    }, 20_000);
    await (
      await find('input[aria-label="Why it is left so"]')
    ).sendKeys('The links are in the menu.', Key.ENTER);
    await seen('.fault-more', 'Left so (1)');
    expect((await texts('.fault-words')).join()).not.toContain('Sailings links');
    await driver.navigate().refresh();
    await proved();
    await seen('.fault-more', 'Left so (1)');
    expect((await texts('.fault-words')).join()).not.toContain('Sailings links');
    await seen('.expectation-list', 'as drawn at 1280');
  });

  test('all that is certain is mended in one edit, and no error is left', async () => {
    await press(driver, By.xpath('//button[.="Mend all that are certain"]'));
    await driver.wait(
      async () => (await texts('.faults .panel-head span')).every((t) => !t.includes('error')),
      WAIT,
    );
    await seen('.saving', 'saved');
    expect(await (await find('.rail-band')).getAttribute('aria-label')).toMatch(/^No errors/);
    await press(driver, By.xpath('//button[.="Undo"]'));
    await driver.wait(
      async () => (await texts('.faults .panel-head span')).some((t) => t.includes('5 errors')),
      WAIT,
    );
  });

  test('on the workbench the question line turns to the faults after the last question', async () => {
    await stage('Structure');
    // After each answer the questions are looked for again: the last is answered once none has come for a while.
    let quiet = 0;
    await driver.wait(async () => {
      const asked = await driver.findElements(By.css('footer[aria-label="Question"]'));
      if (asked.length > 0) await driver.findElement(By.css('body')).sendKeys('1');
      const told = await driver.findElements(By.css('footer[aria-label="Fault"]'));
      quiet = asked.length === 0 && told.length > 0 ? quiet + 1 : 0;
      await driver.sleep(300);
      return quiet >= 8;
    }, 2 * WAIT);
    await seen('footer[aria-label="Fault"]', 'Fault 1 of');
    // A heading that keeps 700 px scrolls sideways below that; letting it give way mends it.
    await press(driver, By.xpath('//span[@class="part-name" and text()="Next sailings"]'));
    await (await find('input[aria-label="Type rules for the part in hand"]')).sendKeys('w 700', Key.ENTER);
    await seen('.saving', 'saved');
    // Keys answer the line where nothing is typed.
    await driver.executeScript('document.activeElement.blur()');
    const open = async (): Promise<number> => {
      const [head = ''] = await texts('footer[aria-label="Fault"] header');
      return Number(/of (\d+)/.exec(head)?.[1] ?? 0);
    };
    // The worst of them may be one that nothing mends: the next is looked at.
    await driver.wait(async () => {
      if ((await driver.findElements(By.css('footer[aria-label="Fault"] .answer'))).length > 0) return true;
      const body = (await texts('footer[aria-label="Fault"]')).join();
      if (body.includes('No change')) await driver.findElement(By.css('body')).sendKeys('3');
      await driver.sleep(300);
      return false;
    }, WAIT);
    const before = await open();
    await driver.findElement(By.css('body')).sendKeys('1');
    await driver.wait(async () => {
      const now = await open();
      return now > 0 && now < before;
    }, WAIT);
  });
});
