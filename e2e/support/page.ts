import { fileURLToPath } from 'node:url';
import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { press } from './press.js';

const WAIT_MS = 60_000;
const DEPARTURES = fileURLToPath(new URL('../../demo/departures-1280.svg', import.meta.url));

/** Where a part stands on the reflowed sheet, px of the frame. */
export interface Box {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** What tests of the workbench do on its page again and again. */
export function pageOf(driver: WebDriver) {
  const find = (css: string): Promise<WebElement> => driver.wait(until.elementLocated(By.css(css)), WAIT_MS);
  const seen = async (css: string, text: string): Promise<void> => {
    // The page may draw the element anew between finding and reading it.
    const read = async () => (await (await find(css)).getText()).includes(text);
    await driver.wait(() => read().catch(() => false), WAIT_MS, `“${text}” in ${css}`);
  };
  const setWidth = async (width: number): Promise<void> => {
    const input = await find('input[aria-label="Type a frame width"]');
    await input.click();
    await input.sendKeys(Key.chord(Key.CONTROL, 'a'), String(width), Key.ENTER);
    await seen('figure[aria-label^="The structure"] figcaption', `${width} ×`);
  };
  /** Waits until what moved is painted as boxes of the page again. */
  const rested = async (): Promise<void> => {
    const isBusy = async () =>
      (await driver.findElements(By.css('.sheet-live[aria-busy="true"]'))).length > 0;
    await driver.wait(async () => !(await isBusy()), WAIT_MS);
  };
  /**
   * The boxes of parts on the reflowed sheet, read from the page, by the names that their rows show, once they rest and all of
   * them are painted: what comes in sight is a moment after the width is told.
   */
  const boxes = async (names: readonly string[]): Promise<Box[]> =>
    (await driver.wait(
      () =>
        driver.executeScript<Box[] | null>(
          `if (document.querySelector('.sheet-live[aria-busy="true"]')) return null;
       const paper = document.querySelector('.sheet-live').getBoundingClientRect();
       const scale = paper.width / document.querySelector('.sheet-live').offsetWidth;
       const rows = [...document.querySelectorAll('[data-row]')];
       const boxes = arguments[0].map((name) => {
         const row = rows.find((r) => r.querySelector('.part-name')?.textContent === name);
         const b = document.querySelector('.sheet-live [data-part="' + row?.dataset.row + '"]')?.getBoundingClientRect();
         return b && { id: row.dataset.row, x: (b.x - paper.x) / scale, y: (b.y - paper.y) / scale, width: b.width / scale, height: b.height / scale };
       });
       return boxes.every(Boolean) ? boxes : null;`,
          names,
        ),
      WAIT_MS,
    )) ?? [];
  /** Takes a part in hand by its row, which the titles of the list may cover where it is just in sight. */
  const choose = async (name: string): Promise<void> => {
    const named = By.xpath(
      `//div[@data-row][.//span[@class="part-name" and text()="${name}"]]//*[contains(@class,"part-name")]`,
    );
    const row = await driver.wait(until.elementLocated(named), WAIT_MS);
    await driver.executeScript(`arguments[0].scrollIntoView({ block: 'center' })`, row);
    await press(driver, named);
  };
  /** From the empty shelf to the workbench: a project, and the demo's board imported into it. */
  const importBoard = async (): Promise<void> => {
    await (await find('input[aria-label="Name of a new project"]')).sendKeys('Kittiwake Line', Key.ENTER);
    await seen('h1', 'Kittiwake Line');
    await (await find('input[aria-label="Choose a drawing"]')).sendKeys(DEPARTURES);
    await seen('figure[aria-label^="The structure"] figcaption', '1280 × 640');
  };
  return { find, seen, setWidth, rested, boxes, choose, importBoard };
}
