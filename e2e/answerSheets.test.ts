import { appendFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import type { ElementHandle, Page } from 'puppeteer-core';
import sharp from 'sharp';
import { expect, it, onTestFinished } from 'vitest';
import { anonymousAnswer, attempt, membership, sheetPage, sheetReading, user } from '../src/db/schema';
import { lockedPdf } from '../src/server/testing/lockedPdf';
import { planOf, window } from '../src/server/testing/releaseSchool';
import { launchBrowser, pageAs, phone } from './browser';
import { courseIdOf, fixedLines, giveExam, questionNamed } from './giveExam';
import { openHouse, press, pressLike, shows, teacher } from './house';

const house = openHouse();

/** The students of the demo's course by name. */
const roster = () =>
  house.db
    .select({ id: membership.userId, name: user.name, email: user.email })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    // Devices of a round are members too, some under the name of their owner.
    .where(
      and(
        eq(membership.courseId, courseIdOf(house.db)),
        eq(membership.role, 'student'),
        isNull(membership.onlySitting),
      ),
    )
    .orderBy(asc(user.name))
    .all();
/** Has the sheets of a sitting filled in by its made-up class. */
async function filledIn(
  page: Page,
  here: string,
  sheets: number,
  grade = 'copier',
): Promise<Record<string, Uint8Array>> {
  await page.locator('::-p-xpath(//summary[contains(., "Try it without paper")])').click();
  await page.locator('::-p-aria(Taken by)').fill(grade);
  await press(page, 'Have them filled in');
  await page.waitForSelector(`::-p-xpath(//a[contains(., "Keep ${sheets} filled sheets")])`, { timeout: 120_000 });
  const cookie = await house.cookiesOf(teacher);
  const archive = await fetch(`${here}/filled`, { headers: { cookie } });
  return unzipSync(new Uint8Array(await archive.arrayBuffer()));
}
/** Settles every row that is in doubt, by keyboard. */
async function settleDoubts(page: Page): Promise<void> {
  for (let left = 60; left > 0; left--) {
    const said = await page.$eval('section[aria-label="In doubt"]', (sheet) => (sheet as HTMLElement).textContent);
    if (said.includes('Nothing is in doubt.')) break;
    const first = await page.$eval('section[aria-label="In doubt"] button', (button) => button.textContent ?? '');
    await page.keyboard.press(said.includes('So it is (Enter)') ? 'Enter' : (first.toLowerCase() as 'a'));
    await page.waitForFunction(
      (before) => (document.querySelector('section[aria-label="In doubt"]') as HTMLElement).textContent !== before,
      {},
      said,
    );
  }
  await shows(page, 'Nothing is in doubt.');
}
/** Gives the first two students an exam of three questions. */
const giveToTwo = (title: string) =>
  giveExam(
    house.db,
    title,
    (design) => {
      const lines = fixedLines(house.db, ['Isophase', 'North cardinal', 'Overtaking']);
      return { ...design, parts: design.parts.slice(0, 1).map((part) => ({ ...part, lines })) };
    },
    {
      who: {
        kind: 'some',
        sectionIds: [],
        studentIds: roster()
          .slice(0, 2)
          .map((one) => one.id),
      },
    },
  );
/** Waits until the first row of a paper is where one types. */
const atFirstRow = (page: Page) =>
  page.waitForFunction(() => document.activeElement?.getAttribute('aria-label')?.startsWith('Row 1:'));
const shown = ['score', 'questions', 'own-answers', 'right-or-wrong'] as const;

it('sheets are printed, filled in by a made-up class, read in the browser, settled by keyboard, taken over and marked', async () => {
  const students = roster().slice(0, 4);
  const studentIds = students.map((one) => one.id);
  const emails = students.map((one) => one.email);
  const { sittingId } = giveExam(
    house.db,
    'Written on sheets',
    (design) => {
      const ids = house.db.$client
        .prepare(
          "select id from question where type in ('single-choice', 'true-false') and retired_at is null order by short_name limit 11",
        )
        .pluck()
        .all() as string[];
      const number = questionNamed(house.db, 'Speed over ground')?.id ?? '';
      const lines = [...ids, number].map((questionId, i) => ({
        kind: 'fixed' as const,
        id: `row-${i}-line`,
        questionId,
        points: 1,
      }));
      return { ...design, parts: design.parts.slice(0, 1).map((part) => ({ ...part, lines })) };
    },
    { who: { kind: 'some', sectionIds: [], studentIds }, releasePlan: planOf(shown, window('on-publishing')) },
  );
  const page = await house.page(teacher);
  const here = `${house.served.origin}/c/${courseIdOf(house.db)}/sittings/${sittingId}/answer-sheets`;
  await page.goto(here);
  await shows(page, 'Print the sheets of this sitting first');
  await press(page, 'What would be printed');
  await shows(page, '4 sheets of');
  const files = await filledIn(page, here, 4);
  const truth = JSON.parse(new TextDecoder().decode(files['truth.json'])) as {
    name: string;
    rows: { clear: boolean }[];
  }[];
  expect(new Set(truth.map((one) => one.name)).size).toBe(4);
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-scan-'));
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
  writeFileSync(join(folder, 'scan.pdf'), files['scan.pdf'] as Uint8Array);
  writeFileSync(join(folder, 'letter.png'), await page.screenshot());
  writeFileSync(join(folder, 'locked.pdf'), lockedPdf());

  await page.goto(here);
  const input = await page.waitForSelector('input[type=file]');
  await (input as unknown as { uploadFile: (...paths: string[]) => Promise<void> }).uploadFile(
    join(folder, 'locked.pdf'),
    join(folder, 'scan.pdf'),
    join(folder, 'letter.png'),
  );
  await page.waitForFunction(() => location.pathname.endsWith('/review'), { timeout: 120_000 });
  // What is no sheet is put aside with its picture, and the rest goes on.
  await shows(page, 'No sheet was found on this page.');
  await shows(page, 'locked.pdf, which needs a password');
  await shows(page, '4 of 4 students');
  await settleDoubts(page);
  expect(house.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all()).toEqual([]);
  await press(page, 'See what comes in');
  await shows(page, 'What comes in');
  await pressLike(page, 'Read 4 sheets in');
  await shows(page, '4 answer sheets have been read in.');
  const made = house.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all();
  expect(made.map((one) => [one.state, one.endedBy])).toEqual(studentIds.map(() => ['handed-in', 'answer-sheet']));
  // The pictures stay with the attempts, and strangers do not see them.
  const evidence = house.db
    .select()
    .from(sheetPage)
    .where(eq(sheetPage.attemptId, made[0]?.id ?? ''))
    .get();
  const cookie = await house.cookiesOf(teacher);
  const picture = `${house.served.origin}/sheet-pictures/${evidence?.id}`;
  expect((await fetch(picture, { headers: { cookie } })).headers.get('content-type')).toBe('image/webp');
  expect((await fetch(picture)).status).toBe(403);
  await press(page, 'To the results');
  await shows(page, '4 ready to publish');
  // Beside its marks the sheet stands as it was filled in.
  await page.goto(`${house.served.origin}/c/${courseIdOf(house.db)}/marking/${sittingId}/students/${made[0]?.userId}`);
  await page.waitForSelector('img[alt="The row of question 1 as it was filled in"]');
  const student = await house.page(emails[0] as string);
  const review = `${house.served.origin}/my/results/${sittingId}`;
  await student.goto(review);
  expect(await student.$$('img')).toEqual([]);
  await page.goto(`${house.served.origin}/c/${courseIdOf(house.db)}/sittings/${sittingId}/results`);
  await press(page, 'Publish 4 results');
  await press(page, 'Publish');
  await shows(page, '4 published');
  await student.goto(review);
  await shows(student, 'Your answer sheet as it was read in');
  const row = await student.waitForSelector('img[alt="The row of question 1 as it was filled in"]');
  await row?.scrollIntoView();
  await student.waitForFunction((img) => (img as HTMLImageElement).naturalWidth > 100, {}, row);
  await student.locator('summary').click();
  const whole = await student.waitForSelector('img[alt="Page 1 of the answer sheet as it was read in"]');
  await student.waitForFunction((img) => (img as HTMLImageElement).naturalWidth > 500, {}, whole);
  // Nobody else of the class sees it.
  const other = await house.cookiesOf(emails[1] as string);
  expect((await fetch(picture, { headers: { cookie: other } })).status).toBe(404);
}, 300_000);

it('answers are typed off papers by keyboard alone, twice, and what differs is settled before they come in', async () => {
  const { sittingId } = giveToTwo('Typed off papers');
  const page = await house.page(teacher);
  await page.goto(`${house.served.origin}/c/${courseIdOf(house.db)}/sittings/${sittingId}/answer-sheets`);
  await press(page, 'Type answers in instead');
  await shows(page, '0 of 2 students typed');
  await atFirstRow(page);
  await page.keyboard.type('abc');
  await page.keyboard.press('Enter');
  await shows(page, '1 of 2 students typed');
  await atFirstRow(page);
  await page.keyboard.type('a-d');
  await page.keyboard.press('Enter');
  await shows(page, '2 of 2 students typed');
  await page.locator('::-p-xpath(//label[contains(., "Second entry")])').click();
  await shows(page, '0 of 2 students typed a second time');
  await press(page, roster()[0]?.name ?? '');
  await atFirstRow(page);
  await page.keyboard.type('abd');
  await page.keyboard.press('Enter');
  await shows(page, '1 row differs');
  await press(page, 'Look through');
  await shows(page, 'It was typed twice, differently.');
  await shows(page, 'First “C”, then “D”.');
  await page.keyboard.press('d');
  await shows(page, 'Nothing is in doubt.');
  await press(page, 'See what comes in');
  await pressLike(page, 'Read 2 sheets in');
  await shows(page, '2 answer sheets have been read in.');
  const made = house.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all();
  expect(made.map((one) => [one.state, one.endedBy])).toEqual([0, 1].map(() => ['handed-in', 'answer-sheet']));
}, 120_000);

it('sheets are held before a camera one after the other: it says when it has one, and takes each once', async () => {
  const { sittingId } = giveToTwo('Before a camera');
  const printing = await house.page(teacher);
  const here = `${house.served.origin}/c/${courseIdOf(house.db)}/sittings/${sittingId}/answer-sheets`;
  await printing.goto(here);
  await printing.locator('::-p-aria(Sheets on a page)').fill('4');
  const files = await filledIn(printing, here, 2, 'phone');
  // The camera of a browser without one plays a file of pictures, over and over: each sheet for some seconds.
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-camera-'));
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
  const film = join(folder, 'sheets.mjpeg');
  for (const name of ['001.jpg', '002.jpg']) {
    const still = await sharp(files[name] as Uint8Array)
      .resize(1_280, 1_600, { fit: 'contain' })
      .jpeg({ quality: 80 })
      .toBuffer();
    for (let i = 0; i < 60; i++) appendFileSync(film, still);
  }
  const browser = await launchBrowser([
    '--use-fake-device-for-media-stream',
    '--use-fake-ui-for-media-stream',
    `--use-file-for-fake-video-capture=${film}`,
  ]);
  onTestFinished(() => browser.close());
  const page = await pageAs(browser, house.served.origin, await house.cookiesOf(teacher), phone);
  await page.goto(here);
  await press(page, 'Hold them before the camera');
  await press(page, 'Start the camera');
  await page.waitForFunction(() => document.body.textContent?.includes('2 pages taken'), { timeout: 90_000 });
  const names = roster()
    .slice(0, 2)
    .map((one) => one.name);
  const taken = await page.$eval('ol[aria-label="Taken"]', (list) => list.textContent ?? '');
  for (const name of names) expect(taken).toContain(name);
  await shows(page, 'Has it. The next sheet, please.');
  await press(page, 'Look through');
  await shows(page, '2 of 2 students');
  expect(house.db.select().from(sheetPage).where(eq(sheetPage.source, 'camera')).all()).toHaveLength(2);
}, 240_000);

it('sheets of an anonymous sitting are nobody’s: printed, read, taken over without their pages, told when they come again', async () => {
  const { sittingId } = giveExam(house.db, 'How was the passage?', (design) => ({
    ...design,
    purpose: { scored: false, counts: 'taking-part', anonymous: true },
    parts: design.parts.slice(0, 1).map((part) => ({
      ...part,
      lines: fixedLines(house.db, ['Isophase', 'North cardinal', 'Overtaking']),
    })),
  }));
  const page = await house.page(teacher);
  const here = `${house.served.origin}/c/${courseIdOf(house.db)}/sittings/${sittingId}/answer-sheets`;
  await page.goto(here);
  await shows(page, 'no name and no number stands on its sheets');
  await shows(page, 'give them their credit in the gradebook');
  expect(await page.$('::-p-aria(Type answers in instead)')).toBeNull();
  await page.locator('::-p-aria(How many)').fill('5');
  await press(page, 'What would be printed');
  await shows(page, '5 sheets of 1 page');
  const files = await filledIn(page, here, 5);
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-nobodys-'));
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
  writeFileSync(join(folder, 'scan.pdf'), files['scan.pdf'] as Uint8Array);
  const read = async () => {
    await page.goto(here);
    const chooser = await page.waitForSelector('input[type=file]');
    await (chooser as ElementHandle<HTMLInputElement>).uploadFile(join(folder, 'scan.pdf'));
    await page.waitForFunction(() => location.pathname.endsWith('/review'));
    await page.waitForSelector('h1');
  };
  await read();
  await shows(page, '5 sheets');
  await settleDoubts(page);
  await press(page, 'See what comes in');
  await shows(page, 'all pages and pictures go as soon as they are read in');
  for (const copy of [1, 2, 3, 4, 5]) await shows(page, `Sheet ${copy}`);
  await press(page, 'Read 5 sheets in');
  await shows(page, '5 answer sheets have been read in.');
  const answers = house.db.select().from(anonymousAnswer).where(eq(anonymousAnswer.sittingId, sittingId)).all();
  expect(new Set(answers.map((row) => row.sheet)).size).toBe(5);
  const pages = house.db
    .select()
    .from(sheetPage)
    .innerJoin(sheetReading, eq(sheetReading.id, sheetPage.readingId))
    .where(eq(sheetReading.sittingId, sittingId))
    .all();
  expect(pages).toEqual([]);
  await press(page, 'To the answers');
  await shows(page, '5 have handed in so far');
  // The same file once more: nothing of it can come in twice.
  await read();
  await shows(page, '0 sheets; 5 pages are put aside.');
  await shows(page, 'This sheet has been taken over already.');
}, 240_000);
