import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launchBrowser, pageAs } from '../../e2e/browser';
import { serve, signIn } from '../../e2e/serve';
import { largeBook } from './gradebookPage';
import { median, report } from './measure';
import { benchPassword } from './server';

const rounds = 8;

/**
 * gradebook.type: on a gradebook of 500 students and 60 columns, from the Enter behind a typed score until the total of its
 * row is shown with it, saved and worked out anew; and the longest task meanwhile. Baseline: a key on the same page that
 * changes nothing, until the next picture.
 */
export async function gradebookType(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-typing-'));
  const { courseId, email } = await largeBook(folder);
  const served = await serve(folder, 'test');
  const browser = await launchBrowser();
  const page = await pageAs(browser, served.origin, await signIn(served.origin, email, benchPassword));
  await page.goto(`${served.origin}/c/${courseId}/gradebook`);
  await page.waitForSelector('[role=gridcell][aria-label^="Column 5 of "]');
  await page.evaluate(() => {
    const tasks: number[] = [];
    Object.assign(globalThis, { longTasks: tasks });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) tasks.push(entry.duration);
    }).observe({ entryTypes: ['longtask'] });
  });
  /** The totals that are in sight, as they stand. */
  const totals = () =>
    page.evaluate(() => [...document.querySelectorAll('[aria-label^="Total of "]')].map((one) => one.ariaLabel).join());
  await page.focus('[role=gridcell][aria-label^="Column 5 of "]');
  const times: Record<'work' | 'bare', number[]> = { work: [], bare: [] };
  for (let i = 0; i < rounds; i++) {
    const before = await totals();
    // So far from what stands there that the total shows another tenth of a percent.
    const stands = await page.evaluate(() => Number(document.activeElement?.textContent ?? 0));
    await page.keyboard.type(stands >= 5 ? '0.5' : '9.5');
    const begun = performance.now();
    await page.keyboard.press('Enter');
    await page.waitForFunction(
      (stood) =>
        [...document.querySelectorAll('[aria-label^="Total of "]')].map((one) => one.ariaLabel).join() !== stood,
      { timeout: 60_000, polling: 'raf' },
      before,
    );
    times.work.push(performance.now() - begun);
    const empty = performance.now();
    await page.keyboard.press('Shift');
    await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => resolve(null))));
    times.bare.push(performance.now() - empty);
  }
  const longTasks = await page.evaluate(() => (globalThis as unknown as { longTasks: number[] }).longTasks);
  await browser.close();
  await served.stop();
  rmSync(folder, { recursive: true, force: true });
  const [value, baseline] = [median(times.work), median(times.bare)];
  report({
    name: 'gradebook.type',
    value,
    unit: 'ms from Enter behind a score to the total shown, 500 × 60',
    baseline,
    ratio: value / baseline,
    rounds: times.work.length,
    longTasks: longTasks.length,
    longest: Math.round(Math.max(0, ...longTasks)),
  });
}
