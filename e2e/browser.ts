import { existsSync } from 'node:fs';
import puppeteer, { type Browser, type BrowserContext, type Page } from 'puppeteer-core';
import { keepDiary } from './diary';
import './surelyClick';

/** Whether the browser is shown on the screen while it is driven, slowly enough to follow: `HEADFUL=1`. */
const isShown = process.env.HEADFUL === '1';

/** The first Chromium found: the one named in CHROMIUM, or Debian's. */
export function chromiumPath(): string | null {
  const shell = isShown ? [] : ['/usr/bin/chromium-headless-shell'];
  return (
    [process.env.CHROMIUM, ...shell, '/usr/bin/chromium', '/usr/bin/chromium-browser'].find(
      (path) => path && existsSync(path),
    ) ?? null
  );
}

/**
 * Starts Chromium, headless unless it is to be seen; without a named profile it gets a fresh one that goes when it closes.
 *
 * @param more further arguments
 */
export async function launchBrowser(more: readonly string[] = []): Promise<Browser> {
  const executablePath = chromiumPath();
  if (!executablePath)
    throw new Error(
      'Chromium is missing. Install Debian’s package "chromium-headless-shell", or name a Chromium in CHROMIUM.',
    );
  return puppeteer.launch({
    executablePath,
    headless: !isShown,
    slowMo: isShown ? 50 : 0,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--disable-quic',
      '--hide-scrollbars',
      '--force-color-profile=srgb',
      ...more,
    ],
    acceptInsecureCerts: true,
  });
}

export type Size = { width: number; height: number };
export const desktop: Size = { width: 1280, height: 800 };
export const phone: Size = { width: 390, height: 844 };

/** Whether the page answers to the mouse and the keyboard: everything that can be used belongs to the running app. */
const isAlive = () =>
  [...document.querySelectorAll('button, a, input')].every((element) =>
    Object.keys(element).some((key) => key.startsWith('__reactProps')),
  );

/** Waits until a page that something on it has led to can be used. */
export const canBeUsed = (page: Page) => page.waitForFunction(isAlive);

/** A further page of a browser context. Going somewhere waits until the page can be used. */
export async function pageIn(context: BrowserContext, size: Size = desktop): Promise<Page> {
  const page = await context.newPage();
  // Scripts are compiled with names kept, by a helper that functions sent into a page would look for there.
  await page.evaluateOnNewDocument('globalThis.__name ??= (named) => named');
  await keepDiary(page);
  const goto = page.goto.bind(page);
  page.goto = async (url, options) => {
    const response = await goto(url, { waitUntil: 'domcontentloaded', ...options });
    await page.waitForFunction(isAlive);
    return response;
  };
  await page.setViewport({ ...size, deviceScaleFactor: 1 });
  return page;
}

/** A page of its own browser context with the cookies of a signed-in person. */
export async function pageAs(
  browser: Browser,
  origin: string,
  cookies: string | null,
  size: Size = desktop,
): Promise<Page> {
  const context = await browser.createBrowserContext();
  const page = await pageIn(context, size);
  if (cookies) {
    const { hostname } = new URL(origin);
    for (const pair of cookies.split('; ')) {
      const [name = '', ...value] = pair.split('=');
      await context.setCookie({
        name,
        value: value.join('='),
        domain: hostname,
        path: '/',
        httpOnly: true,
        secure: false,
        expires: -1,
        sameSite: 'Lax',
      });
    }
  }
  return page;
}
