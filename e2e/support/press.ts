import { error, type By, type WebDriver } from 'selenium-webdriver';

const NOT_YET = [
  error.NoSuchElementError,
  error.StaleElementReferenceError,
  error.ElementNotInteractableError,
  error.ElementClickInterceptedError,
];

/**
 * Clicks what the locator finds, as soon as it can be clicked: lists that open and rows that are drawn anew
 * are on the page for a moment before they can take a click.
 */
export async function press(driver: WebDriver, locator: By, withinMs = 60_000): Promise<void> {
  let last: unknown;
  await driver
    .wait(async () => {
      try {
        await driver.findElement(locator).click();
        return true;
      } catch (e) {
        if (!NOT_YET.some((kind) => e instanceof kind)) throw e;
        last = e;
        return false;
      }
    }, withinMs)
    .catch((e: unknown) => {
      throw e instanceof error.TimeoutError && last instanceof Error ? last : e;
    });
}
