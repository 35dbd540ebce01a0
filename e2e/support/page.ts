import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';

const WAIT_MS = 20_000;

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
  return { find, seen, setWidth };
}
