import { cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, afterEach, beforeAll, inject } from 'vitest';
import { instructors, marker } from '../demo/people';
import { type Db, databaseFile, openDatabase } from '../src/db/client';
import { demoPassword } from '../src/server/people/demoPeople';
import { desktop, launchBrowser, pageAs, pageIn, type Size } from './browser';
import { diaryOf } from './diary';
import { type Served, serve, signIn } from './serve';

export const teacher = instructors[0]?.email ?? '';
export const markerEmail = marker.email;

/** A served copy of the seeded school with a browser, for the tests of one file. */
export type House = {
  served: Served;
  browser: Browser;
  /** The database file opened beside the server, for looking. */
  db: Db;
  cookiesOf: (email: string) => Promise<string>;
  page: (email: string | null, size?: Size) => Promise<Page>;
  /** Another page in the browser of this one: with its cookies and all that it keeps. */
  beside: (page: Page) => Promise<Page>;
  restart: (signal: NodeJS.Signals) => Promise<void>;
};

const lastLines = 60;

/** Leaves a picture of a page and what it asked and was told, where a test failed. */
export async function keepFailure(page: Page, test: string, index: number): Promise<void> {
  mkdirSync('e2e/failures', { recursive: true });
  const path = `e2e/failures/${test.replace(/[^a-z0-9]+/gi, '-').slice(0, 60)}-${index}`;
  const diary = diaryOf(page);
  writeFileSync(`${path}.txt`, diary);
  // Where only the log is left of a run, the end of the diary is what can be read of it.
  console.log(`The end of what page ${index} did in “${test}”:\n${diary.split('\n').slice(-lastLines).join('\n')}`);
  await page.screenshot({ path: `${path}.png` }).catch(() => null);
}

/** @param empty whether nobody and nothing is there yet, as in a new installation */
export function openHouse({ empty = false } = {}): House {
  const house = {} as House;
  const start = (folder: string) =>
    empty
      ? serve(folder, 'production', { WUZZEN_SECRET: 'a production secret for this test only' })
      : serve(folder, 'test');
  const cookies = new Map<string, string>();
  const pages: Page[] = [];
  let folder = '';
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'wuzzen-house-'));
    if (!empty) cpSync(inject('seedFolder'), folder, { recursive: true });
    house.db = openDatabase(databaseFile(folder));
    house.served = await start(folder);
    house.browser = await launchBrowser();
  });
  afterEach(async ({ task }) => {
    for (const [i, page] of pages.splice(0).entries()) {
      if (task.result?.state === 'fail') {
        await keepFailure(page, task.name, i);
      }
      await page
        .browserContext()
        .close()
        .catch(() => null);
    }
  });
  afterAll(async () => {
    await house.browser?.close();
    await house.served?.stop();
    house.db?.$client.close();
    rmSync(folder, { recursive: true, force: true });
  });
  house.cookiesOf = async (email) => {
    const known = cookies.get(email) ?? (await signIn(house.served.origin, email, demoPassword));
    cookies.set(email, known);
    return known;
  };
  house.page = async (email, size = desktop) => {
    const page = await pageAs(house.browser, house.served.origin, email ? await house.cookiesOf(email) : null, size);
    page.setDefaultTimeout(20_000);
    pages.push(page);
    return page;
  };
  house.beside = async (page) => {
    const other = await pageIn(page.browserContext());
    other.setDefaultTimeout(20_000);
    pages.push(other);
    return other;
  };
  house.restart = async (signal) => {
    await house.served.stop(signal);
    house.served = await start(folder);
  };
  return house;
}

/**
 * Waits until the page shows a text. A page that is only just coming has no body yet.
 *
 * @param timeout in milliseconds; printing takes longer than a page does
 */
export async function shows(page: Page, text: string, timeout = page.getDefaultTimeout()): Promise<void> {
  await page.waitForFunction((wanted) => document.body?.textContent?.includes(wanted), { timeout }, text);
}

/**
 * Whether an element belongs to the running app, stays where it is (letters of the app's own fonts have their width), and
 * is what a pointer over it would meet: what lies behind a bar is brought into the middle first, as a person would do.
 */
const isSettled = (element: Element) => {
  const { left, top, width, height } = element.getBoundingClientRect();
  const met = document.elementFromPoint(left + width / 2, top + height / 2);
  const isMet =
    met !== null && (element.contains(met) || met.contains(element) || met.closest('label')?.control === element);
  if (!isMet) element.scrollIntoView({ block: 'center', behavior: 'instant' });
  return (
    isMet &&
    element.getAttribute('aria-busy') !== 'true' &&
    document.readyState === 'complete' &&
    document.fonts.status === 'loaded' &&
    Object.keys(element).some((key) => key.startsWith('__reactProps'))
  );
};

/** Presses the button or link with this name, as soon as it can be pressed. */
export async function press(page: Page, name: string): Promise<void> {
  await page.locator(`::-p-aria([name="${name}"])`).filter(isSettled).click();
}

/** Presses the first button or link whose words hold all of these, as soon as it can be pressed. */
export async function pressLike(page: Page, ...parts: string[]): Promise<void> {
  const holds = parts.map((part) => `contains(., "${part}")`).join(' and ');
  const which = `::-p-xpath((//main//*[self::button or self::a] | //*[@role="dialog"]//button)[${holds}])`;
  await page.locator(which).filter(isSettled).click();
}

/** Types into the field with this label, replacing what it holds. */
export async function fill(page: Page, label: string, text: string): Promise<void> {
  const field = await page.waitForSelector(`::-p-aria([name="${label}"])`);
  await field?.evaluate((element) => {
    const input = element as HTMLInputElement;
    input.focus();
    input.select();
  });
  if (text === '') await page.keyboard.press('Backspace');
  else await page.keyboard.type(text);
}
