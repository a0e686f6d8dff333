import { eq } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { expect, it } from 'vitest';
import { course as courseTable, exam, sitting } from '../src/db/schema';
import { courseIdOf } from './giveExam';
import { fill, markerEmail, openHouse, press, shows, teacher } from './house';

const house = openHouse();
const course = () => `${house.served.origin}/c/${courseIdOf(house.db)}`;

/** A date field takes no typing that is the same in every browser: its value is set as a picker would. */
async function pickDate(page: Page, label: string, value: string): Promise<void> {
  const field = await page.waitForSelector(`::-p-aria([name="${label}"])`);
  await field?.evaluate((input, text) => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(input, text);
    input.dispatchEvent(new Event('input', { bubbles: true }));
  }, value);
}

it('a colleague is asked, remarks on a line, signs off; a change afterwards puts it in doubt on the sitting', async () => {
  const examId = house.db.select().from(exam).where(eq(exam.title, 'Steering-rules quiz')).get()?.id ?? '';
  const page = await house.page(teacher);
  await page.goto(`${course()}/exams/${examId}`);
  await press(page, 'Ask a colleague to look at it');
  await shows(page, 'Nobody has been asked yet.');
  await page.$eval('aside select', (select) => {
    const marker = [...(select as HTMLSelectElement).options].find((one) => one.text.endsWith(', marker'));
    (select as HTMLSelectElement).value = marker?.value ?? '';
    select.dispatchEvent(new Event('change', { bubbles: true }));
  });
  await fill(page, 'What to look at', 'Is line 1.1 too easy?');
  await press(page, 'Ask');
  await shows(page, 'asked ');
  await page.waitForFunction(() => document.querySelector('aside ul li'));

  const theirs = await house.page(markerEmail);
  await theirs.goto(course());
  await theirs.locator('section[aria-label="Asked for your look"] ::-p-text(Steering-rules quiz)').click();
  await shows(theirs, 'Is line 1.1 too easy?');
  await press(theirs, 'Remark on line 1.1');
  await fill(theirs, 'Remark on line 1.1', 'Draw fewer here.');
  await press(theirs, 'Put it there');
  await theirs.waitForFunction(() => document.body?.textContent?.includes('1 of 1 remark open'));
  await press(theirs, 'Sign it off');
  await shows(theirs, 'Take the sign-off back');
  await press(theirs, 'Sample papers with key');
  await shows(theirs, 'Sample paper 1');

  const sittingId = house.db.select().from(sitting).where(eq(sitting.examId, examId)).get()?.id ?? '';
  await page.goto(`${course()}/sittings/${sittingId}`);
  await shows(page, 'signed off');
  await shows(page, 'one open remark');
  await page.goto(`${course()}/exams/${examId}`);
  await page.locator('section[aria-label="Who keeps clear"] ::-p-text(Add a draw)').click();
  await shows(page, 'Revision 2');
  await page.goto(`${course()}/sittings/${sittingId}`);
  await shows(page, 'changed since');
});

it('the next term is worked out, begun in one step, and lists what needs a look', async () => {
  const page = await house.page(teacher);
  await page.goto(`${course()}/people/next-term`);
  await press(page, 'Show what it would be');
  await shows(page, 'This is not a day of the calendar.');
  await fill(page, 'Term', 'The term after');
  await pickDate(page, 'First day of teaching in the new term', '2027-01-11');
  await press(page, 'Show what it would be');
  await page.waitForSelector('section[aria-label="Sittings and their dates"] tbody');
  await shows(page, 'It has no fixed times yet.');
  await press(page, 'Begin The term after');
  await page.waitForFunction(() => location.pathname.endsWith('/people/notes'));
  await shows(page, 'It has no students yet: add the class list.');
  const next = house.db.select().from(courseTable).where(eq(courseTable.term, 'The term after')).get()?.id ?? '';
  const copies = house.db.select().from(sitting).where(eq(sitting.courseId, next)).all();
  expect(copies.length).toBeGreaterThan(3);
  expect(copies.every((one) => one.state === 'draft')).toBe(true);
  await page.locator('li input[type=checkbox]').click();
  await page.waitForFunction(() => {
    const [, open, all] = /(\d+) of (\d+) open/.exec(document.body?.textContent ?? '') ?? [];
    return Number(open) === Number(all) - 1;
  });
  await page.goto(`${house.served.origin}/c/${next}`);
  await shows(page, 'What needs a look');
});

it('a sitting is given again on another day', async () => {
  const page = await house.page(teacher);
  const earlier = house.db.select().from(sitting).where(eq(sitting.title, 'Mid-course theory exam')).get();
  await page.goto(`${course()}/sittings/${earlier?.id}`);
  await press(page, 'Give it again');
  await press(page, 'Begin the new sitting');
  await shows(page, 'Say on which day it opens.');
  await pickDate(page, 'Opens on', '2027-03-01');
  await press(page, 'Begin the new sitting');
  await page.waitForFunction((id) => !location.pathname.endsWith(id), {}, earlier?.id ?? '');
  const made = house.db.select().from(sitting).where(eq(sitting.title, 'Mid-course theory exam')).all().at(-1);
  expect([made?.state, made?.attemptsAllowed]).toEqual(['draft', earlier?.attemptsAllowed]);
});
