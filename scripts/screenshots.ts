import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, eq, isNotNull, sql } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { instructors, marker } from '../demo/people';
import { desktop, launchBrowser, pageAs, phone, type Size } from '../e2e/browser';
import { serve, signIn } from '../e2e/serve';
import { databaseFile, openDatabase } from '../src/db/client';
import { attempt, exam, paperSlot, question, round, sitting, user } from '../src/db/schema';
import { demoPassword } from '../src/server/people/demoPeople';

/**
 * Takes one picture of each main view from the demo data: `npm run screenshots -- [--data FOLDER] [--out FOLDER] [names]`.
 * Without names, all of them, into docs/screenshots.
 */
const words = process.argv.slice(2);
const option = (name: string) => {
  const at = words.indexOf(name);
  return at < 0 ? null : (words.splice(at, 2)[1] ?? null);
};
const source = option('--data');
const out = option('--out') ?? 'docs/screenshots';

const folder = mkdtempSync(join(tmpdir(), 'wuzzen-pictures-'));
if (source) cpSync(source, folder, { recursive: true });
// Without a folder the demo is loaded anew, so that somebody is in the middle of an exam.
else
  spawnSync('npx', ['tsx', 'demo/main.ts'], {
    stdio: 'inherit',
    env: { ...process.env, WUZZEN_DATA: folder, WUZZEN_KIND: 'demo' },
  });
rmSync(join(folder, 'server.pid'), { force: true });
mkdirSync(out, { recursive: true });

const db = openDatabase(databaseFile(folder));
const sittingId = (title: string) => db.select().from(sitting).where(eq(sitting.title, title)).get()?.id ?? '';
const examId = (title: string) => db.select().from(exam).where(eq(exam.title, title)).get()?.id ?? '';
const questionOf = (name: string) => db.select().from(question).where(eq(question.shortName, name)).get();
const courseId = db.select().from(sitting).get()?.courseId ?? '';
const chosen = questionOf('Fog signal under way');
const running = db
  .select({
    attemptId: attempt.id,
    email: user.email,
    n: sql<number>`(select count(*) from response r where r.attempt_id = ${attempt.id})`,
  })
  .from(attempt)
  .innerJoin(user, eq(user.id, attempt.userId))
  .where(and(eq(attempt.state, 'running')))
  .orderBy(sql`3`)
  .all()
  .at(3);
const written =
  db
    .select({ id: paperSlot.questionId })
    .from(paperSlot)
    .where(eq(paperSlot.questionId, questionOf('Alternatives')?.id ?? ''))
    .get()?.id ?? '';
const bankId = chosen?.bankId ?? '';
const led = db.select({ id: round.sittingId }).from(round).where(isNotNull(round.led)).get()?.id ?? '';
// A question that was asked again is talked through: the wall shows both votes and what is right.
db.update(round).set({ walkedTo: 2 }).where(eq(round.sittingId, led)).run();

type View = {
  name: string;
  who: string;
  path: string;
  size?: Size;
  ready?: string;
  before?: (page: Page) => Promise<void>;
};
const teacher = instructors[0]?.email ?? '';
const c = `/c/${courseId}`;
const student = running?.email ?? '';

const views: View[] = [
  { name: 'sign-in', who: '', path: '/sign-in' },
  { name: 'desk', who: teacher, path: c },
  {
    name: 'bank',
    who: teacher,
    path: `${c}/banks/${bankId}?category=${chosen?.categoryId}&question=${chosen?.id}`,
    ready: '[role=textbox]',
  },
  {
    name: 'question-values',
    who: teacher,
    path: `${c}/banks/${bankId}?type=numeric&sort=success&question=${questionOf('Time for a leg')?.id}`,
    ready: '[role=textbox]',
    before: async (page) => {
      await page.evaluate(() =>
        document.querySelector('section[aria-label^="Values"]')?.scrollIntoView({ block: 'center' }),
      );
    },
  },
  { name: 'bank-health', who: teacher, path: `${c}/banks/${bankId}/health` },
  {
    name: 'bring-in',
    who: teacher,
    path: `${c}/banks/${bankId}/bring-in`,
    before: async (page) => {
      await page.locator('textarea').click();
      await page.keyboard.type(
        'Part A: lights and measures\n\nWhich side is green?\na) port\nb) starboard *\n\n2. How many metres make a nautical mile?\nAnswer: 1,852\n3. The ____ comes before high water.\nAnswer: flood\n4. Which mark is this?\na) north\nb) south\nKey: 4b',
      );
      await page.locator('::-p-xpath(//button[contains(., "Read it")])').click();
      await page.waitForSelector('section[aria-label="Preview"]');
    },
  },
  { name: 'exams', who: teacher, path: `${c}/exams` },
  { name: 'exam-plan', who: teacher, path: `${c}/exams/${examId('Final theory exam')}`, ready: '[role=textbox]' },
  {
    name: 'off-screen',
    who: teacher,
    path: `${c}/exams/${examId('Chart room test, on paper')}`,
    ready: '[data-answer]',
  },
  { name: 'look', who: teacher, path: `${c}/exams/${examId('Final theory exam')}/look` },
  { name: 'sample-paper', who: teacher, path: `${c}/exams/${examId('Mid-course theory exam')}/sample?paper=2` },
  {
    name: 'rehearsal',
    who: teacher,
    path: `${c}/exams/${examId('Final theory exam')}/rehearsal`,
    before: async (page) => {
      await page.locator('::-p-aria([name="Students"])').fill('200');
      await page.locator('form button[type=submit]').click();
      await page.waitForSelector('[data-rehearsal=drawn] canvas');
    },
  },
  {
    name: 'trial',
    who: teacher,
    path: `/trial/${courseId}/${examId('Mid-course theory exam')}`,
    ready: 'article',
    before: async (page) => {
      await page.locator('::-p-text(Fill in right answers)').click();
      await page.locator('::-p-text(Filled in.)').wait();
    },
  },
  { name: 'rounds', who: teacher, path: `${c}/rounds` },
  { name: 'round', who: teacher, path: `${c}/rounds/${led}/after` },
  { name: 'wall', who: teacher, path: `/wall/${courseId}/${led}` },
  { name: 'sittings', who: teacher, path: `${c}/sittings` },
  { name: 'sitting', who: teacher, path: `${c}/sittings/${sittingId('Final theory exam, Weekday')}` },
  { name: 'room', who: teacher, path: `${c}/sittings/${sittingId('Steering-rules quiz')}/room` },
  { name: 'my-exams', who: student, path: '/my' },
  {
    name: 'before-start',
    who: 'keoni.kahananui@ternpoint.example',
    path: `/my/exams/${sittingId('Steering-rules quiz')}`,
  },
  { name: 'taking', who: student, path: `/take/${running?.attemptId}`, ready: 'input[type=radio]:not(:disabled)' },
  {
    name: 'taking-phone',
    who: student,
    path: `/take/${running?.attemptId}`,
    size: phone,
    ready: 'input[type=radio]:not(:disabled)',
  },
  { name: 'my-results', who: student, path: '/my/results' },
  {
    name: 'review',
    who: 'keoni.kahananui@ternpoint.example',
    path: `/my/results/${sittingId('Mid-course theory exam')}`,
    size: phone,
  },
  { name: 'bands', who: teacher, path: `${c}/gradebook/bands?sitting=${sittingId('Mid-course theory exam')}` },
  { name: 'marking-queue', who: marker.email, path: `${c}/marking` },
  { name: 'marking', who: marker.email, path: `${c}/marking/${sittingId('Passage-planning paper')}/${written}` },
  {
    name: 'mark-anew',
    who: teacher,
    path: `${c}/marking/questions/${questionOf('Checking by transit')?.id}?policy=everyone`,
  },
  {
    name: 'results',
    who: teacher,
    path: `${c}/sittings/${sittingId('Mid-course theory exam')}/results`,
    ready: 'canvas',
  },
  {
    name: 'gradebook',
    who: teacher,
    path: `${c}/gradebook`,
    before: async (page) => {
      await page.locator('tbody tr:nth-child(2) [data-cell=total]').click();
      await page.locator('::-p-text(How was this computed?)').wait();
    },
  },
  { name: 'people', who: teacher, path: `${c}/people` },
  {
    name: 'sheets',
    who: teacher,
    path: `${c}/sittings/${sittingId('Quiz on paper')}/answer-sheets/review`,
    ready: 'img',
  },
];

db.$client.close();
const served = await serve(folder, 'demo');
const browser = await launchBrowser();
const cookies = new Map<string, string>();
try {
  for (const view of views) {
    if (words.length && !words.includes(view.name)) continue;
    if (view.who && !cookies.has(view.who)) cookies.set(view.who, await signIn(served.origin, view.who, demoPassword));
    const page = await pageAs(browser, served.origin, cookies.get(view.who) ?? null, view.size ?? desktop);
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error instanceof Error ? error.message : String(error)));
    page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
    await page.goto(served.origin + view.path, { waitUntil: 'load' });
    // A live page keeps one line open.
    await page.waitForNetworkIdle({ idleTime: 500, concurrency: 1 });
    if (view.ready) await page.waitForSelector(view.ready, { timeout: 15_000 });
    await view.before?.(page);
    await page.evaluate(() => document.fonts.ready);
    await page.screenshot({ path: join(out, `${view.name}.png`) });
    console.log(`${view.name}${errors.length ? `: ${errors.join(' | ')}` : ''}`);
    await page.browserContext().close();
  }
} finally {
  await browser.close();
  await served.stop();
  rmSync(folder, { recursive: true, force: true });
}
