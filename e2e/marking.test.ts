import { and, eq, isNull, lt } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { expect, it } from 'vitest';
import { attempt, mark, paperSlot, publication, question, sitting } from '../src/db/schema';
import { fill, openHouse, press, pressLike, shows, teacher } from './house';

const house = openHouse();
const written = () => house.db.select().from(sitting).where(eq(sitting.title, 'Passage-planning paper')).get();
const course = () => `${house.served.origin}/c/${written()?.courseId}`;
const marks = () => house.db.select().from(mark).where(eq(mark.kind, 'hand')).all().length;
const idOf = (name: string) => house.db.select().from(question).where(eq(question.shortName, name)).get()?.id;

/** A question of a published sitting that somebody has missed: which ones those are differs with every drawn class. */
const missedQuestion = () =>
  house.db
    .select({ id: paperSlot.questionId })
    .from(mark)
    .innerJoin(paperSlot, eq(paperSlot.id, mark.slotId))
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(publication, eq(publication.sittingId, attempt.sittingId))
    .where(and(eq(mark.kind, 'automatic'), lt(mark.points, paperSlot.points), isNull(publication.withdrawnAt)))
    .get()?.id;

/** Goes on by Tab until the focus stands on a link or button that is called so, and presses it. */
async function pressByKey(page: Page, name: RegExp): Promise<void> {
  for (let i = 0; i < 80; i++) {
    await page.keyboard.press('Tab');
    const now = await page.evaluate(() => document.activeElement?.textContent ?? '');
    if (!name.test(now)) continue;
    await page.keyboard.press('Enter');
    return;
  }
  throw new Error(`No way by keyboard to ${name}`);
}

/** The field of points has the focus, on a page whose answer waits for a mark. */
const readyToType = (page: Page) =>
  page.waitForFunction(
    () =>
      document.activeElement?.hasAttribute('data-points') && document.body?.textContent?.includes('waits for a mark'),
  );

/** Gives the same points to every answer that still waits, one after another. */
async function markAll(page: Page, points: string): Promise<void> {
  const isDone = () =>
    page.evaluate(() => document.body?.textContent?.includes('All answers to this question are marked.'));
  while (!(await isDone())) {
    await readyToType(page);
    const before = marks();
    await page.keyboard.type(points);
    await page.keyboard.press('Enter');
    await expect.poll(marks).toBe(before + 1);
  }
}

it('alike answers are marked in one act and taken back in one', async () => {
  const page = await house.page(teacher);
  await page.goto(`${course()}/marking/${written()?.id}/${idOf('Alternatives')}/together?least=0.6`);
  const before = marks();
  const button = await page.waitForSelector('::-p-xpath(//button[starts-with(., "Mark ")])');
  const name = (await button?.evaluate((element) => element.textContent)) ?? '';
  const count = Number(/\d+/.exec(name)?.[0]);
  expect(count).toBeGreaterThan(0);
  await fill(page, 'Points, 0 to 10', '8');
  await press(page, name);
  await shows(page, '8 points now.');
  expect(marks()).toBe(before + count);
  await press(page, 'Undo');
  await expect
    .poll(
      () =>
        house.db
          .select()
          .from(mark)
          .all()
          .filter((row) => row.takenBackAt !== null).length,
    )
    .toBe(count);
});

it('more than twenty answers are marked by keyboard alone; the page is closed in the middle and nothing is lost; then published', async () => {
  const before = marks();
  let page = await house.page(teacher);
  await page.goto(`${course()}/marking`);
  await pressByKey(page, /^Alternatives/);
  await readyToType(page);
  for (let i = 0; i < 6; i++) {
    await page.keyboard.type(`${5 + (i % 3)},5`);
    await page.keyboard.press('Enter');
    await expect.poll(marks).toBe(before + i + 1);
    await readyToType(page);
  }
  // A comment and points are typed; the page closes before they are saved.
  await page.keyboard.type('4');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Name the limits.');
  const other = await house.beside(page);
  await page.close();
  page = other;
  await page.goto(`${course()}/marking`);
  await pressByKey(page, /^Alternatives/);
  await shows(page, 'typed, not saved');
  await readyToType(page);
  expect(await page.evaluate(() => (document.activeElement as HTMLInputElement).value)).toBe('4');
  await page.keyboard.press('Enter');
  await expect.poll(marks).toBe(before + 7);
  expect(house.db.select().from(mark).where(eq(mark.comment, 'Name the limits.')).all()).toHaveLength(1);
  await markAll(page, '6');
  await pressByKey(page, /^Back to the queue/);
  await page.waitForFunction(() => document.querySelector('h1')?.textContent === 'Marking');
  await pressByKey(page, /^Read a report/);
  await markAll(page, '5');
  expect(marks() - before).toBeGreaterThan(20);
  await page.goto(`${course()}/sittings/${written()?.id}/results`);
  await shows(page, 'ready to publish');
  await page.locator('::-p-xpath(//button[starts-with(., "Publish ")])').click();
  await press(page, 'Publish');
  await shows(page, 'results have been published');
  expect(
    house.db
      .select()
      .from(publication)
      .where(eq(publication.sittingId, written()?.id ?? ''))
      .all().length,
  ).toBeGreaterThan(20);
});

it('answers are taken away, and the filled sheet is looked at, taken over and taken back', async () => {
  const page = await house.page(teacher);
  const here = `${course()}/marking/${written()?.id}/offline`;
  await page.goto(here);
  await shows(page, 'Bring the marks back');
  const sheet = await page.evaluate(async (address) => {
    const archive = await fetch(`${address}/archive?layout=question`);
    return [archive.status, archive.headers.get('content-type'), (await archive.arrayBuffer()).byteLength > 10_000];
  }, here);
  expect(sheet).toEqual([200, 'application/zip', true]);
  const input = await page.waitForSelector('input[type=file]');
  const before = marks();
  await input?.evaluate((element) => {
    const files = new DataTransfer();
    files.items.add(new File(['Answer,Points\nabcd-efgh,3\nwxyz-2345,2'], 'marks.csv', { type: 'text/csv' }));
    (element as HTMLInputElement).files = files.files;
    element.dispatchEvent(new Event('change', { bubbles: true }));
  });
  await shows(page, 'None of these rows names an answer of this sitting');
  expect(marks()).toBe(before);
});

it('a question is marked anew after a look at who gains what, and that is taken back', async () => {
  const page = await house.page(teacher);
  await page.goto(`${course()}/marking/questions/${missedQuestion()}`);
  await shows(page, 'Old and new answers both earn');
  await pressLike(page, 'All ', 'Everyone earns its points');
  await shows(page, 'will be flagged');
  await fill(page, 'Why, told to the students', 'The chart was misprinted.');
  await pressLike(page, 'Mark ', 'Everyone earns its points');
  await shows(page, 'otherwise now. Published results that differ are flagged');
  const anew = () =>
    house.db
      .select()
      .from(mark)
      .all()
      .filter((row) => row.batch !== null && row.takenBackAt === null).length;
  const written_ = anew();
  expect(written_).toBeGreaterThan(0);
  await press(page, 'Undo');
  await expect.poll(anew).toBe(0);
});
