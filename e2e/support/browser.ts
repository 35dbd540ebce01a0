import chrome from 'selenium-webdriver/chrome.js';

const ARGUMENTS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--hide-scrollbars',
];

/** Starts headless Chromium with an inner size of exactly these px, with more in its environment where that is said. */
export async function openBrowser(
  width = 1280,
  height = 800,
  environment: Readonly<Record<string, string>> = {},
): Promise<chrome.Driver> {
  const options = new chrome.Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(...ARGUMENTS);
  const service = new chrome.ServiceBuilder('/usr/bin/chromedriver')
    .setEnvironment({ ...process.env, ...environment } as Record<string, string>)
    .build();
  const driver = chrome.Driver.createSession(options, service);
  await driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
    width,
    height,
    deviceScaleFactor: 1,
    mobile: false,
  });
  return driver;
}
