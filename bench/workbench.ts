import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, until, type WebDriver } from 'selenium-webdriver';
import { startApplication } from '../e2e/support/application.js';
import { openBrowser } from '../e2e/support/browser.js';
import { startTemporaryPostgres } from '../scripts/lib/postgres.mjs';
import { cardsDrawing } from './support.js';

const WAIT = 60_000;
/** By then the workers are at rest: a proof of 1,000 parts takes less, ms. */
const PROOF = 45_000;

export const proved = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, PROOF));

/** Does something in the built application, on the workbench of a screen of about so many parts that was just read. */
export async function onWorkbench(parts: number, work: (driver: WebDriver) => Promise<void>): Promise<void> {
  const postgres = await startTemporaryPostgres();
  const folder = await mkdtemp(path.join(tmpdir(), 'tinfold-bench-'));
  const file = path.join(folder, 'sailings.svg');
  await writeFile(file, cardsDrawing(parts));
  const application = await startApplication(postgres.url);
  const driver = await openBrowser(1280, 800);
  const find = (css: string) => driver.wait(until.elementLocated(By.css(css)), WAIT);
  try {
    await driver.get(application.url);
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Bench\n');
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(file);
    await find('.caliper');
    await find('[data-part]');
    await work(driver);
  } finally {
    await driver.quit();
    await application.stop();
    await postgres.stop();
    await rm(folder, { recursive: true, force: true });
  }
}
