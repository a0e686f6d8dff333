import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { launchBrowser, pageAs } from '../../e2e/browser';
import { serve, signIn } from '../../e2e/serve';
import { minute } from '../../src/core/base/time';
import { databaseFile } from '../../src/db/client';
import { gradeEntry, user } from '../../src/db/schema';
import { addColumn } from '../../src/server/gradebook/bookSettings';
import { setPassword } from '../../src/server/people/auth';
import { must, School } from '../../src/server/testing/school';
import { median, report } from './measure';
import { benchPassword } from './server';

const students = 500;
const width = 60;
const rounds = 5;
const cell = '[role=gridcell][aria-label^="Column 5 of "]';

/** A course with a gradebook of 500 students and 60 columns by hand, all of them filled. */
export async function largeBook(folder: string): Promise<{ courseId: string; email: string }> {
  const school = new School(students, databaseFile(folder));
  const context = school.as(school.teacher, minute);
  for (let i = 1; i <= width; i++) {
    const { columnId } = must(addColumn(context, school.courseId, { title: `Column ${i}`, worth: 10 }));
    for (let at = 0; at < students; at += 250)
      school.db
        .insert(gradeEntry)
        .values(
          school.students.slice(at, at + 250).map((student, n) => ({
            columnId,
            courseId: school.courseId,
            userId: student.userId,
            points: ((at + n) * i) % 11,
            at: context.now,
            by: school.teacher.userId,
          })),
        )
        .run();
  }
  await setPassword(school.db, school.teacher.userId, benchPassword);
  const email = school.db.select().from(user).where(eq(user.id, school.teacher.userId)).get()?.email ?? '';
  school.db.$client.close();
  return { courseId: school.courseId, email };
}

/**
 * gradebook.page: from asking for a gradebook of 500 students and 60 columns until its cells can be opened, and the longest
 * task while it is scrolled from end to end, down and then across. Baseline: an empty page of the same build.
 */
export async function gradebookPage(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-gradebook-'));
  const { courseId, email } = await largeBook(folder);
  const served = await serve(folder, 'test');
  const browser = await launchBrowser();
  const cookie = await signIn(served.origin, email, benchPassword);
  const page = await pageAs(browser, served.origin, cookie);
  const timed = async (path: string, ready: string) => {
    const begun = performance.now();
    await page.goto(`${served.origin}${path}`);
    await page.waitForSelector(ready);
    return performance.now() - begun;
  };
  const here = `/c/${courseId}/gradebook`;
  const times: Record<'work' | 'bare', number[]> = { work: [], bare: [] };
  await timed(here, cell);
  await timed('/bare', 'body');
  for (let i = 0; i < rounds; i++) {
    times.work.push(await timed(here, cell));
    times.bare.push(await timed('/bare', 'body'));
  }
  await timed(here, cell);
  const scrolling = await page.evaluate(async () => {
    const tasks: number[] = [];
    const observer = new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) tasks.push(entry.duration);
    });
    observer.observe({ entryTypes: ['longtask'] });
    const box = document.querySelector('[aria-label="Gradebook, listed"]') as HTMLElement;
    const begun = performance.now();
    for (let top = 0; top < box.scrollHeight; top += 250) {
      box.scrollTop = top;
      await new Promise((resolve) => requestAnimationFrame(resolve));
    }
    for (let left = 0; left < box.scrollWidth; left += 250) {
      box.scrollLeft = left;
      await new Promise((resolve) => requestAnimationFrame(resolve));
    }
    await new Promise((resolve) => setTimeout(resolve, 200));
    observer.disconnect();
    return {
      milliseconds: Math.round(performance.now() - begun),
      longTasks: tasks.length,
      longest: Math.round(Math.max(0, ...tasks)),
    };
  });
  const { length } = await (await fetch(`${served.origin}${here}`, { headers: { cookie } })).text();
  await browser.close();
  await served.stop();
  rmSync(folder, { recursive: true, force: true });
  const [value, baseline] = [median(times.work), median(times.bare)];
  report({
    name: 'gradebook.page',
    value,
    unit: 'ms to 500 students and 60 columns that can be opened',
    baseline,
    ratio: value / baseline,
    scrolling,
    documentKB: Math.round(length / 1_000),
  });
}
