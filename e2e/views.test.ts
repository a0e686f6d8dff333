import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, inject, it } from 'vitest';
import { databaseFile, openDatabase } from '../src/db/client';
import { openHouse } from './house';
import { mainViews } from './views';

const house = openHouse();
const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const seeded = openDatabase(databaseFile(inject('seedFolder')));
const views = mainViews(seeded);
seeded.$client.close();

it.each(views)(
  '$name has no serious finding of axe, no error in the browser, and its own title',
  async ({ who, path, size, ready }) => {
    const page = await house.page(who, size);
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(String(error)));
    page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
    const response = await page.goto(house.served.origin + path, { waitUntil: 'networkidle0' });
    expect(response?.status()).toBe(200);
    if (ready) await page.waitForSelector(ready);
    expect(await page.title()).toContain('Wuzzen');
    await page.evaluate(axe);
    const found = await page.evaluate(async () => {
      const { violations } = await (
        globalThis as unknown as {
          axe: { run: () => Promise<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }> };
        }
      ).axe.run();
      return violations
        .filter((one) => one.impact === 'serious' || one.impact === 'critical')
        .map((one) => `${one.id}: ${one.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`);
    });
    expect(found).toEqual([]);
    expect(errors).toEqual([]);
  },
);
