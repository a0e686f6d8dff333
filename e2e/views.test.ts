import { copyFileSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { expect, inject, it } from 'vitest';
import { databaseFile, openDatabase } from '../src/db/client';
import { desktop, pageAs } from './browser';
import { openHouse } from './house';
import { mainViews, type View } from './views';

const house = openHouse();
const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
// A copy: opening the one that every file copies would put a file beside it for a moment.
const looked = mkdtempSync(join(tmpdir(), 'wuzzen-views-'));
copyFileSync(databaseFile(inject('seedFolder')), databaseFile(looked));
const seeded = openDatabase(databaseFile(looked));
const views = mainViews(seeded);
seeded.$client.close();
rmSync(looked, { recursive: true, force: true });

const pages = new Map<string, Page>();
/** One page for each person and size goes from view to view, as a person would. */
async function pageOf({ who, size = desktop }: View): Promise<Page> {
  const key = `${who}/${size.width}`;
  const page =
    pages.get(key) ?? (await pageAs(house.browser, house.served.origin, who ? await house.cookiesOf(who) : null, size));
  pages.set(key, page);
  page.removeAllListeners('pageerror').removeAllListeners('console').removeAllListeners('request');
  return page;
}

it.each(views)(
  '$name has no serious finding of axe, no error in the browser, and its own title, and asks for nothing ahead',
  async (view) => {
    const page = await pageOf(view);
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(String(error)));
    page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
    const ahead: string[] = [];
    page.on('request', (asked) => 'next-router-prefetch' in asked.headers() && ahead.push(asked.url()));
    const response = await page.goto(house.served.origin + view.path);
    expect(response?.status()).toBe(200);
    if (view.ready) await page.waitForSelector(view.ready);
    expect(await page.title()).toContain('Wuzzen');
    await page.evaluate(axe);
    const found = await page.evaluate(async () => {
      const { violations } = await (
        globalThis as unknown as {
          axe: {
            run: (
              options: object,
            ) => Promise<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }>;
          };
        }
      ).axe.run({ resultTypes: ['violations'], preload: false });
      return violations
        .filter((one) => one.impact === 'serious' || one.impact === 'critical')
        .map((one) => `${one.id}: ${one.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`);
    });
    expect(found).toEqual([]);
    expect(errors).toEqual([]);
    expect(ahead).toEqual([]);
    if (!view.size) expect(await framed(page, view)).toEqual({ frame: true, way: true, beside: 0 });
  },
);

/** What the navigation leads to has no page above it but the desk. */
const tops = /^\/c\/[^/]+(\/(banks\/[^/]+|banks|exams|sittings|marking|gradebook|people))?$/;

/** Whether a page stands in the frame of all pages, has a way back, and fits a narrow window: by how much it does not. */
async function framed(page: Page, { path }: View) {
  const isCourse = path.startsWith('/c/');
  const seen = await page.evaluate(() => ({
    frame: document.querySelector('[data-page]') !== null || document.querySelector('#exam-title') !== null,
    way: [...document.querySelectorAll('a')].some((one) => one.textContent?.trim().startsWith('Back to')),
  }));
  await page.setViewport({ width: 900, height: 800 });
  // Pictures that are drawn to fit are drawn anew with the next ones.
  const beside = await page.evaluate(async () => {
    const over = () => document.documentElement.scrollWidth - document.documentElement.clientWidth;
    for (let i = 0; i < 120 && over() > 0; i++) await new Promise((resolve) => requestAnimationFrame(resolve));
    return over();
  });
  await page.setViewport(desktop);
  return {
    frame: !isCourse || seen.frame,
    way: !isCourse || seen.way || tops.test(path.split('?')[0] ?? ''),
    beside: Math.max(0, beside),
  };
}
