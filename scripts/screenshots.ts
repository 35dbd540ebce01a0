/** Takes the pictures of the main views from the demo data, into docs/screenshots. */
import { writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { By, Key, until, type WebDriver } from 'selenium-webdriver';
import { openBrowser } from '../e2e/support/browser.js';
import { serve } from '../server/src/main.js';
import { startProcess } from '../server/test/processes.js';
import { startTemporaryPostgres } from './lib/postgres.mjs';

const at = (path: string): string => fileURLToPath(new URL(`../${path}`, import.meta.url));
const WAIT = 20_000;

const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 800));

async function picture(driver: WebDriver, name: string): Promise<void> {
  await settle();
  await writeFile(at(`docs/screenshots/${name}.png`), Buffer.from(await driver.takeScreenshot(), 'base64'));
}

const database = await startTemporaryPostgres();
const server = await serve({
  databaseUrl: database.url,
  port: 0,
  webRoot: at('web/dist'),
  demo: at('demo'),
  logLevel: 'error',
});
const worker = await startProcess('working', database.url);
const driver = await openBrowser();
try {
  const see = (css: string) => driver.wait(until.elementLocated(By.css(css)), WAIT);
  await driver.get(server.url);
  await see('.silhouette rect');
  await picture(driver, 'shelf');
  await (await see('.folder')).click();
  await see('.plate .silhouette rect');
  await driver.wait(until.elementTextIs(await see('.jobs h2'), 'All done'), 120_000);
  await picture(driver, 'project');
  await (await see('.plate')).click();
  await see('[data-item]');
  const row = await see('[data-row]:nth-of-type(22) [data-cell="gap"]');
  await row.click();
  await picture(driver, 'workbench');
  const named = (name: string) =>
    driver.wait(until.elementLocated(By.xpath(`//span[@class="part-name" and text()="${name}"]`)), WAIT);
  await (await named('Next sailings')).click();
  await driver.actions().keyDown(Key.CONTROL).perform();
  await (await named('Marrow Isle tiles')).click();
  await driver.actions().keyUp(Key.CONTROL).perform();
  await driver.actions().keyDown(Key.ALT).sendKeys('g').keyUp(Key.ALT).perform();
  await see('.outcome');
  await picture(driver, 'by-hand');
  await driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
  await (await see('.ledger-tab:nth-child(2)')).click();
  await (await see('.token-offers caption button')).click();
  const dark = By.xpath('//button[.="Propose dark values"]');
  await (await driver.wait(until.elementLocated(dark), WAIT)).click();
  await driver.executeScript(
    `document.querySelector('[data-token="ink"]').scrollIntoView({ block: 'center' })`,
  );
  await picture(driver, 'tokens');
  for (let i = 0; i < 2; i++)
    await driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
  await (await see('.ledger-tab:nth-child(1)')).click();
  await (await see('a.stage:nth-of-type(4)')).click();
  await see('.preview-page');
  await settle();
  await driver.executeScript(
    `document.querySelector('.preview-page').contentDocument.querySelector('li').click()`,
  );
  await picture(driver, 'handoff');
  await driver.findElement(By.xpath('//button[contains(., "Make a link")]')).click();
  const link = (await (await see('.given-link')).getAttribute('value')) ?? '';
  await (await see('.saving a')).click();
  await see('.revision-paper');
  await (await see('.revisions-list li:last-child button')).click();
  await picture(driver, 'revisions');
  await driver.navigate().back();
  await (await see('a.stage:nth-of-type(2)')).click();
  await (await see('.paper-button')).click();
  await (await named('Sailings links')).click();
  await picture(driver, 'dark');
  await (await see('.paper-button')).click();
  const width = await see('input[aria-label="Type a frame width"]');
  await width.click();
  await width.sendKeys(Key.chord(Key.CONTROL, 'a'), '480', Key.ENTER);
  await picture(driver, 'workbench-480');
  await (await see('.stage')).click();
  await see('.item-mark');
  await picture(driver, 'drawing');
  await (await see('.crumb a')).click();
  await (
    await see('input[aria-label="Choose a drawing"]')
  ).sendKeys(at('demo/exported/boarding-pass-390.foreign.svg'));
  await see('.answer');
  await (await see('.stage')).click();
  await see('.drawn-fonts .ant-btn');
  await (await see('.drawn-fonts .ant-btn')).click();
  await see('input[aria-label="What the drawn words say"]');
  await picture(driver, 'drawn-words');
  await driver.navigate().back();
  await driver.navigate().back();
  await see('.plate .silhouette rect');
  await (await see('input[aria-label="Choose a drawing"]')).sendKeys(at('demo/departures-1280.svg'));
  await see('.answer');
  const typed = await see('input[aria-label="Type a frame width"]');
  await typed.click();
  await typed.sendKeys(Key.chord(Key.CONTROL, 'a'), '700', Key.ENTER);
  const [, other] = await driver.findElements(By.css('.answer'));
  if (other) await driver.actions().move({ origin: other }).perform();
  await picture(driver, 'question');
  const stages = await driver.findElements(By.css('.stage'));
  await stages[2]?.click();
  await see('.chart canvas');
  await (await see('.trials label')).click();
  const expectation = await see('.expectation-add input');
  await expectation.sendKeys('no side scroll', Key.ENTER, 'no errors', Key.ENTER);
  await see('.expectation-broken');
  // The first fault that something mends.
  for (const head of await driver.findElements(By.css('.fault-head'))) {
    await head.click();
    const mended = await driver
      .wait(until.elementLocated(By.css('.fault-body .answer')), 6000)
      .then(() => true)
      .catch(() => false);
    if (mended) break;
  }
  await settle();
  await picture(driver, 'proof');
  await driver.get(link);
  await see('.preview-page');
  await settle();
  await picture(driver, 'shared');
} finally {
  await driver.quit();
  worker.child.kill('SIGTERM');
  await server.close();
  await database.stop();
}
