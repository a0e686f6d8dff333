import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { launchBrowser, pageAs } from '../../e2e/browser';
import { serve, signIn } from '../../e2e/serve';
import { databaseFile } from '../../src/db/client';
import { user } from '../../src/db/schema';
import { setPassword } from '../../src/server/people/auth';
import { School, writtenContent } from '../../src/server/testing/school';
import { takePaper } from '../../src/server/testing/takePaper';
import { median, report } from './measure';
import { benchPassword } from './server';

const answers = 1_000;
const rounds = 7;

/**
 * marking.page: from asking for the page of one question with 1,000 waiting answers of 150 words to the first of them shown
 * and ready for its points. Baseline: an empty page of the same build.
 */
export async function markingPage(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-marking-'));
  const school = new School(answers, databaseFile(folder));
  const essay = school.question(writtenContent('Why does it turn?'));
  const sittingId = school.sitting(school.exam([school.fixed(essay, 6)]));
  for (const [i, student] of school.students.entries())
    takePaper(school, sittingId, student, [
      { text: `Answer ${i}. ${'The stream turns before the tide does. '.repeat(21)}` },
    ]);
  await setPassword(school.db, school.teacher.userId, benchPassword);
  const email = school.db.select().from(user).where(eq(user.id, school.teacher.userId)).get()?.email ?? '';
  school.db.$client.close();
  const served = await serve(folder, 'test');
  const browser = await launchBrowser();
  const page = await pageAs(browser, served.origin, await signIn(served.origin, email, benchPassword));
  const timed = async (path: string, ready: string) => {
    const begun = performance.now();
    await page.goto(`${served.origin}${path}`);
    await page.waitForSelector(ready);
    return performance.now() - begun;
  };
  const here = `/c/${school.courseId}/marking/${sittingId}/${essay}`;
  const times: Record<'work' | 'bare', number[]> = { work: [], bare: [] };
  await timed(here, 'input[data-points]');
  await timed('/bare', 'body');
  for (let i = 0; i < rounds; i++) {
    times.work.push(await timed(here, 'input[data-points]'));
    times.bare.push(await timed('/bare', 'body'));
  }
  const { length } = await (
    await fetch(`${served.origin}${here}`, { headers: { cookie: await signIn(served.origin, email, benchPassword) } })
  ).text();
  await browser.close();
  await served.stop();
  rmSync(folder, { recursive: true, force: true });
  const [value, baseline] = [median(times.work), median(times.bare)];
  report({
    name: 'marking.page',
    value,
    unit: 'ms to the first of 1,000 waiting answers',
    baseline,
    ratio: value / baseline,
    documentKB: Math.round(length / 1_000),
  });
}
