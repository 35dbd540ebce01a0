import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, type WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { startApplication } from './support/application.js';
import { openBrowser } from './support/browser.js';
import { pageOf } from './support/page.js';

const WAIT = 60_000;

/** One of each kind of paint and content, at whole px. */
const NOTICE = `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="560" font-family="Inter" font-size="16" fill="#1c2c38">
  <defs>
    <linearGradient id="sea"><stop stop-color="#3f7f75"/><stop offset="1" stop-color="#e3ecea"/></linearGradient>
    <radialGradient id="lamp"><stop stop-color="#f4d58d"/><stop offset="1" stop-color="#a64c22"/></radialGradient>
    <filter id="cast"><feDropShadow dx="0" dy="6" stdDeviation="6" flood-color="#1c2c38" flood-opacity="0.4"/></filter>
  </defs>
  <rect width="600" height="560" fill="#f6f4ee"/>
  <rect x="32" y="32" width="536" height="120" rx="16" fill="url(#sea)"/>
  <text x="56" y="84" font-size="32" font-weight="700" fill="#ffffff">Pier 1 is closed</text>
  <text x="56" y="120" letter-spacing="1" fill="#ffffff">until Friday at noon</text>
  <rect x="32" y="184" width="256" height="120" fill="#ffffff" stroke="#1c2c38" stroke-width="3" filter="url(#cast)"/>
  <text x="52" y="220" font-weight="600">Low Tarn</text>
  <text x="52" y="250" font-family="Source Serif 4" font-style="italic">From pier 3, by the ramp</text>
  <text x="52" y="284" font-size="12" fill="#6b7a80">Every hour</text>
  <rect x="312" y="184" width="256" height="120" rx="8" fill="none" stroke="#a64c22" stroke-width="2" stroke-dasharray="4 2"/>
  <circle cx="372" cy="244" r="36" fill="url(#lamp)"/>
  <path d="M440 264 h96 l-16 20 h-64 z" fill="#24404a" stroke="#a64c22" stroke-width="2"/>
  <rect x="464" y="236" width="40" height="16" fill="#a64c22" opacity="0.5"/>
  <text x="300" y="360" text-anchor="middle" font-size="20">All other boats sail as always</text>
  <image x="32" y="400" width="240" height="128" preserveAspectRatio="xMidYMid slice" href="data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' width='80' height='80'%3E%3Crect width='80' height='80' fill='%23c6d8d2'/%3E%3Ccircle cx='40' cy='40' r='24' fill='%23a64c22'/%3E%3C/svg%3E"/>
  <text x="300" y="440">Words that are long enough to</text>
  <text x="300" y="464">need a second line of their own</text>
</svg>`;

/** One px to the left, and what is seen once the page has drawn that: whether the sheet is busy, and whether its canvas shows. */
const STEP = `
  const [done] = arguments;
  const caliper = document.querySelector('.caliper');
  caliper.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowLeft', bubbles: true }));
  requestAnimationFrame(() => {
    const shows = (e) => e.checkVisibility({ contentVisibilityAuto: true });
    done({
      canvas: shows(document.querySelector('.sheet-moving')),
      boxes: shows(document.querySelector('.sheet-live [data-part]')),
    });
  });`;

/** How far the picture on the canvas is from the one that the page paints at rest: the mean difference of a channel, 0 to 255. */
const COMPARE = `
  const [png, done] = arguments;
  (async () => {
    const canvas = document.querySelector('.sheet-moving');
    const load = async (src) => { const i = new Image(); i.src = src; await i.decode(); return i; };
    const [moving, rested] = await Promise.all([load(canvas.toDataURL()), load('data:image/png;base64,' + png)]);
    const pixels = (image) => {
      const c = new OffscreenCanvas(600, 560).getContext('2d');
      c.drawImage(image, 0, 0);
      return c.getImageData(0, 0, 600, 560).data;
    };
    const [a, b] = [pixels(moving), pixels(rested)];
    let sum = 0;
    for (let i = 0; i < a.length; i++) sum += Math.abs(a[i] - b[i]);
    done(sum / a.length);
  })();`;

describe('the sheet while it moves', () => {
  let driver: WebDriver;
  let application: Awaited<ReturnType<typeof startApplication>>;
  let page: ReturnType<typeof pageOf>;
  let folder: string;

  beforeAll(async () => {
    application = await startApplication(inject('postgresUrl'));
    driver = await openBrowser(1700, 1000);
    page = pageOf(driver);
    folder = await mkdtemp(path.join(tmpdir(), 'tinfold-moving-'));
    await writeFile(path.join(folder, 'notice.svg'), NOTICE);
    await driver.get(application.url);
    await (await page.find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line\n');
    await page.seen('h1', 'Kittiwake Line');
    await (await page.find('input[aria-label="Choose a drawing"]')).sendKeys(path.join(folder, 'notice.svg'));
    await page.find('.sheet-live [data-part]');
    await driver.findElement(By.xpath('//label[.//div[text()="Reflowed"]]')).click();
    await driver.findElement(By.xpath('//button[text()="100 %"]')).click();
  });
  afterAll(async () => {
    await driver.quit();
    await application.stop();
    await rm(folder, { recursive: true, force: true });
  });

  test(
    'a canvas shows what the page shows when it rests',
    async () => {
      await page.setWidth(599);
      await page.setWidth(600);
      await page.rested();
      const sheet = await driver.findElement(By.css('.sheet-frame'));
      const at = await sheet.takeScreenshot();
      const mean: number = await driver.executeAsyncScript(COMPARE, at);
      expect(mean).toBeLessThan(0.25);
    },
    WAIT,
  );

  test('boxes give way to the canvas while the caliper moves, and come back', async () => {
    expect(await driver.executeAsyncScript(STEP)).toEqual({ canvas: true, boxes: false });
    await page.rested();
    expect(await driver.findElement(By.css('.sheet-moving')).isDisplayed()).toBe(false);
    expect(await driver.findElement(By.css('.sheet-live [data-part]')).isDisplayed()).toBe(true);
  });
});
