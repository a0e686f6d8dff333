import { eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { exam, examRevision, question, sitting } from '../src/db/schema';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();
const course = () => `${house.served.origin}/c/${house.db.select().from(sitting).get()?.courseId}`;
const theory = () => house.db.select().from(exam).where(eq(exam.title, 'Final theory exam')).get();
const design = () =>
  house.db
    .select()
    .from(examRevision)
    .where(eq(examRevision.id, theory()?.currentRevisionId ?? ''))
    .get()?.design;
const named = (name: string) => house.db.select().from(question).where(eq(question.shortName, name)).get();
const bank = () => `${course()}/banks/${named('Isophase')?.bankId}`;

it('a part that was taken out comes back at once, or after its page was left', async () => {
  const page = await house.page(teacher);
  const before = design();
  const [, second] = before?.parts ?? [];
  const plan = `${course()}/exams/${theory()?.id}`;
  const remove = () => press(page, `Remove ${second?.title}`);
  await page.goto(plan);
  await remove();
  await shows(page, `The part “${second?.title}” with`);
  await press(page, 'Undo');
  await page.waitForFunction(() => /· saved/.test(document.querySelector('[role=status]')?.textContent ?? ''));
  expect(design()?.parts).toEqual(before?.parts);
  await remove();
  await expect.poll(() => design()?.parts.length).toBe((before?.parts.length ?? 0) - 1);
  await page.goto(course());
  await press(page, 'Done lately');
  await shows(page, `The part “${second?.title}” with`);
  await page.locator(`::-p-xpath(//li[contains(., "${second?.title}")]//button)`).click();
  await shows(page, 'Taken back:');
  expect(design()?.parts).toEqual(before?.parts);
  await page.goto(plan);
  await shows(page, second?.title ?? '');
});

it('many questions are retired only when it was asked, found again, and brought back', async () => {
  const page = await house.page(teacher);
  const retired = () =>
    house.db
      .select()
      .from(question)
      .all()
      .filter((row) => row.retiredAt !== null).length;
  const before = retired();
  await page.goto(`${bank()}?type=ordering`);
  await page.waitForSelector('input[type=checkbox][aria-label^="Select"]');
  const count = (await page.$$('input[type=checkbox][aria-label^="Select"]')).length;
  await page.locator('input[type=checkbox][aria-label^="Select"]').click();
  await press(page, `Select all ${count} that match`);
  await page.locator('::-p-aria([name="What to do"])').fill('retire');
  await press(page, `Retire ${count}`);
  await shows(page, `Retire ${count} questions?`);
  expect(retired()).toBe(before);
  await page.locator(`::-p-xpath(//*[@role="dialog"]//button[.="Retire ${count}"])`).click();
  await expect.poll(retired).toBe(before + count);
  await page.goto(`${bank()}?retired=yes&type=ordering`);
  await shows(page, `${count} questions`);
  await page.locator('::-p-text(Distress call)').click();
  await shows(page, 'No exam draws it any more');
  await press(page, 'Bring it back');
  await shows(page, 'Question brought back.');
  expect(retired()).toBe(before + count - 1);
  await page.waitForSelector('::-p-aria([name="Save"][role="button"])');
  await page.goto(`${bank()}?retired=yes&type=ordering`);
  await page.locator('input[type=checkbox][aria-label^="Select"]').click();
  if (count > 2) await press(page, `Select all ${count - 1} that match`);
  await press(page, `Bring back ${count - 1}`);
  await expect.poll(retired).toBe(before);
});

it('what is being brought in stands as it was left, on the Desk too, until it is brought in', async () => {
  const page = await house.page(teacher);
  await page.goto(`${bank()}/bring-in`);
  await page.locator('textarea').click();
  await page.keyboard.type('Part A\n\nWhich knot makes a loop that holds?\na) reef knot\nb) bowline\n');
  await press(page, 'Read it');
  await shows(page, '1 that cannot be read, 1 line was not read');
  await page.locator('::-p-xpath(//button[contains(., "b) bowline")])').click();
  await press(page, 'Line 5 is: right choice');
  await shows(page, '1 new');
  await page.goto(course());
  await shows(page, '1 thing unfinished');
  await press(page, 'Questions to bring in: “Part A”');
  await shows(page, 'You had begun to bring this in');
  await press(page, 'Read it');
  await shows(page, '1 new, 0 already there, 0 that cannot be read, 1 line was not read');
  await press(page, 'Bring in 1');
  await shows(page, '1 question brought in; what was not taken stands below, to be mended.');
  expect(await page.$eval('textarea', (field) => field.value)).toBe('Part A');
  await fill(page, 'Paste questions from a word processor, a mail or a spreadsheet', '');
  await page.goto(course());
  await shows(page, 'Done lately');
  expect(await page.evaluate(() => document.body.textContent)).not.toContain('unfinished');
});
