import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { By, until, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';

const DEPARTURES = fileURLToPath(new URL('../demo/departures-1280.svg', import.meta.url));
const ACCOUNT = fileURLToPath(new URL('../scripts/account.mjs', import.meta.url));
const PASSWORD = 'tide table 1907';
const WAIT = 60_000;

/** An owner, somebody who is invited, and a stranger with a link, each in a browser of their own. */
describe('who comes in', () => {
  let application: Awaited<ReturnType<typeof startApplication>>;
  let owner: WebDriver;
  let guest: WebDriver;
  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    execFileSync(process.execPath, [ACCOUNT, 'Harbour Master'], {
      env: { ...process.env, DATABASE_URL: application.databaseUrl },
      input: `${PASSWORD}\n`,
      stdio: ['pipe', 'ignore', 'ignore'],
    });
    [owner, guest] = await Promise.all([openBrowser(), openBrowser()]);
  });
  afterAll(async () => {
    await Promise.all([owner.quit(), guest.quit()]);
    await application.stop();
  });
  const labelled = async (driver: WebDriver, label: string, words: string): Promise<void> => {
    const field = await driver.wait(
      until.elementLocated(By.xpath(`//label[contains(., "${label}")]//input`)),
      WAIT,
    );
    await field.sendKeys(words);
  };
  const press = async (driver: WebDriver, words: string): Promise<void> =>
    (await driver.wait(until.elementLocated(By.xpath(`//button[contains(., "${words}")]`)), WAIT)).click();
  const link = async (driver: WebDriver): Promise<string> =>
    (await driver.wait(until.elementLocated(By.css('.given-link')), WAIT)).getAttribute(
      'value',
    ) as Promise<string>;

  test('a stranger is asked to sign in, and comes back to where they wanted to go', async () => {
    await owner.get(`${application.url}/?from=the-pier`);
    await owner.wait(until.urlContains('/sign-in?to='), WAIT);
    await labelled(owner, 'Name', 'Harbour Master');
    await labelled(owner, 'Password', 'not this one');
    await press(owner, 'Sign in');
    await pageOf(owner).seen(
      '[role="alert"]',
      'Name and password do not go together: check both, then try again.',
    );
    await labelled(owner, 'Password', `${'\b'.repeat(12)}${PASSWORD}`);
    await press(owner, 'Sign in');
    await owner.wait(until.urlContains('/?from=the-pier'), WAIT);
    await pageOf(owner).seen('.signed', 'harbour master');
  });

  test('an invitation makes a viewer, whose edits are refused with the sentence', async () => {
    const { find, seen } = pageOf(owner);
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line\n');
    await seen('h1', 'Kittiwake Line');
    const project = await owner.getCurrentUrl();
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(DEPARTURES);
    await seen('figure[aria-label^="The structure"] figcaption', '1280 × 640');
    const screen = await owner.getCurrentUrl();
    await owner.get(project);
    await (await find('select[aria-label="Role of who is invited"]')).sendKeys('viewer');
    await press(owner, 'Make an invitation');
    await guest.get(await link(owner));
    await pageOf(guest).seen('h1', 'Kittiwake Line');
    await labelled(guest, 'Name', 'Mate');
    await labelled(guest, 'Password', PASSWORD);
    await press(guest, 'Make an account and join');
    await guest.wait(until.urlContains('/projects/'), WAIT);
    await guest.get(screen);
    await pageOf(guest).seen('figure[aria-label^="The structure"] figcaption', '1280 × 640');
    const line = await pageOf(guest).find('.rule-line input');
    await (await guest.findElements(By.css('[data-row]')))[1]?.click();
    await line.sendKeys('pad 40\n');
    await guest.wait(
      until.elementLocated(By.xpath('//*[@role="alert"][contains(., "ask one of its owners")]')),
      WAIT,
    );
    await owner.get(`${screen}/handoff`);
  });

  test('a link shows page, specification and proof to a stranger, until it is taken back', async () => {
    await press(owner, 'Make a link');
    const address = await link(owner);
    await guest.manage().deleteAllCookies();
    await guest.get(address);
    await pageOf(guest).seen('.saving', 'rev 0 · to look at');
    await guest.wait(until.elementLocated(By.css('iframe.preview-page')), WAIT);
    await guest.findElement(By.css('.looked-bar [title="Specification"]')).click();
    const inside = async (title: string, words: string): Promise<void> => {
      const frame = await guest.wait(until.elementLocated(By.css(`iframe[title="${title}"]`)), WAIT);
      expect(await frame.getAttribute('srcdoc')).toContain(words);
    };
    await inside('Specification', 'Kittiwake');
    await guest.findElement(By.css('.looked-bar [title="Proof"]')).click();
    await inside('Report of the proof', '<figure>');
    expect((await guest.findElements(By.css('[data-row], .rule-line, .operations'))).length).toBe(0);
    await press(owner, 'Take back');
    await owner.wait(async () => (await owner.findElements(By.css('.links li'))).length === 0, WAIT);
    await guest.navigate().refresh();
    await pageOf(guest).seen(
      '[role="alert"]',
      'This link has ended, was taken back or never was: ask for another one.',
    );
  });

  test('signing out leads back to the door', async () => {
    const { find } = pageOf(owner);
    await (await find('.signed')).click();
    await owner
      .wait(until.elementLocated(By.xpath('//li[contains(., "Sign out everywhere")]')), WAIT)
      .click();
    await owner.wait(until.urlContains('/sign-in'), WAIT);
    await owner.get(application.url);
    await owner.wait(until.urlContains('/sign-in'), WAIT);
  });
});
