import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { launchBrowser, pageAs } from '../../e2e/browser';
import { serve, signIn } from '../../e2e/serve';
import type { ExamLine } from '../../src/core/exam/design';
import { databaseFile } from '../../src/db/client';
import { user } from '../../src/db/schema';
import { seeCategories } from '../../src/server/bank/categories';
import { bringIn } from '../../src/server/bringIn/bringIn';
import { newId } from '../../src/server/house/context';
import { setPassword } from '../../src/server/people/auth';
import { must, School } from '../../src/server/testing/school';
import { exampleQuestions } from './exampleBank';
import { median, report } from './measure';
import { benchPassword, ensureBuilt } from './server';

const questions = 5_000;
const lines = 200;
const topics = 40;
const keys = 60;
const rounds = 3;
/** Between two keys, in milliseconds: faster than anybody types, slower than a key that repeats. */
const delay = 60;

/**
 * keep.cost: what a key typed into a plan of 200 lines over a bank of 5,000 questions costs the browser's main thread, with
 * the change kept in its journal and sent to the server; beside it a key typed into the heading of a part, which changes the
 * design, and one typed into a question of that bank. Baseline: the
 * same typing into the plan with the journal's store forbidden and the server out of reach. `longest` is the longest task,
 * in milliseconds, and stays below 50.
 */
export async function keepCost(): Promise<void> {
  ensureBuilt();
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-keep-'));
  const school = new School(1, databaseFile(folder));
  const teacher = school.as(school.teacher);
  const items = exampleQuestions(questions).map((content, i) => ({
    content,
    shortName: `Question ${i}`,
    category: `Topic ${i % topics}`,
  }));
  for (let i = 0; i < items.length; i += 2_500)
    must(
      bringIn(teacher, school.courseId, school.bankId, {
        categoryId: school.categoryId,
        items: items.slice(i, i + 2_500),
      }),
    );
  const categories = must(seeCategories(teacher, school.courseId, school.bankId)).filter((one) => one.own > 0);
  const examId = school.exam(
    Array.from({ length: lines }, (_, i): ExamLine => {
      const categoryId = categories[i % categories.length]?.id ?? '';
      return {
        kind: 'draw',
        id: newId(),
        count: 2,
        points: 1,
        pool: { categories: [{ id: categoryId, below: true }], difficulties: [] },
      };
    }),
  );
  await setPassword(school.db, school.teacher.userId, benchPassword);
  const email = school.db.select().from(user).where(eq(user.id, school.teacher.userId)).get()?.email ?? '';
  school.db.$client.close();
  const served = await serve(folder, 'test');
  const browser = await launchBrowser();
  const cookies = await signIn(served.origin, email, benchPassword);
  const course = `${served.origin}/c/${school.courseId}`;

  /** @returns milliseconds of the main thread per key, and the longest task */
  const typed = async (path: string, into: string, kept: boolean): Promise<{ perKey: number; longest: number }> => {
    const page = await pageAs(browser, served.origin, cookies);
    if (!kept) await page.evaluateOnNewDocument(forbidStore);
    await page.evaluateOnNewDocument(watchTasks);
    await page.goto(path);
    await page.waitForSelector(into);
    await page.waitForNetworkIdle();
    if (!kept) await page.setOfflineMode(true);
    await page.click(into, { count: 3 });
    const before = await mainThread(page);
    await page.evaluate(() => Object.assign(globalThis, { longestTask: 0 }));
    await page.keyboard.type('Sixty keys are typed here, one after another, like a person. '.slice(0, keys), { delay });
    // What is kept and sent after the last key counts too.
    if (kept) await page.waitForFunction(() => /· saved|Draft kept/.test(document.body.textContent ?? ''));
    const after = await mainThread(page);
    const longest = await page.evaluate(() => Number((globalThis as { longestTask?: number }).longestTask ?? 0));
    await page.browserContext().close();
    return { perKey: (after - before) / keys, longest };
  };

  const plan = `${course}/exams/${examId}`;
  const sheet = `${course}/banks/${school.bankId}?begin=single-choice`;
  const measured: Record<'plan' | 'bare' | 'heading' | 'sheet', { perKey: number; longest: number }[]> = {
    plan: [],
    bare: [],
    heading: [],
    sheet: [],
  };
  for (let i = 0; i < rounds; i++) {
    measured.plan.push(await typed(plan, '#exam-title', true));
    measured.bare.push(await typed(plan, '#exam-title', false));
    measured.heading.push(await typed(plan, '[aria-label="Heading of part 1"]', true));
    measured.sheet.push(await typed(sheet, '[role=textbox]', true));
  }
  await browser.close();
  await served.stop();
  rmSync(folder, { recursive: true, force: true });
  const per = (all: { perKey: number }[]) => median(all.map((one) => one.perKey));
  const longest = (all: { longest: number }[]) => Math.round(median(all.map((one) => one.longest)));
  report({
    name: 'keep.cost',
    value: per(measured.plan),
    unit: 'ms of the main thread per key typed into a plan of 200 lines',
    baseline: per(measured.bare),
    ratio: per(measured.plan) / per(measured.bare),
    longest: longest(measured.plan),
    longestWithoutKeeping: longest(measured.bare),
    heading: Number(per(measured.heading).toPrecision(4)),
    longestInHeading: longest(measured.heading),
    sheet: Number(per(measured.sheet).toPrecision(4)),
    longestOnSheet: longest(measured.sheet),
  });
}

/** Seconds of all tasks of the page so far, as milliseconds. */
const mainThread = async (page: Page): Promise<number> => ((await page.metrics()).TaskDuration ?? 0) * 1_000;

function watchTasks(): void {
  new PerformanceObserver((list) => {
    const known = globalThis as { longestTask?: number };
    for (const task of list.getEntries()) known.longestTask = Math.max(known.longestTask ?? 0, task.duration);
  }).observe({ type: 'longtask', buffered: true });
}

function forbidStore(): void {
  Object.defineProperty(window, 'localStorage', {
    get() {
      throw new DOMException('The store is forbidden.', 'SecurityError');
    },
  });
}
