import { and, desc, eq, isNull } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import type { Page } from 'puppeteer-core';
import { expect, it } from 'vitest';
import { attempt, membership, publication, section, sitting, user } from '../src/db/schema';
import { gradeEntry } from '../src/db/schema/gradebook';
import { canBeUsed, phone } from './browser';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();
const quiz = () => house.db.select().from(sitting).where(eq(sitting.title, 'Steering-rules quiz')).get();
const planning = () => house.db.select().from(sitting).where(eq(sitting.title, 'Passage-planning paper')).get();
const here = () => `${house.served.origin}/c/${quiz()?.courseId}/sittings/${quiz()?.id}`;
/** Somebody who has handed the open quiz in, with their score still unpublished. */
const handedIn = () =>
  house.db
    .select({ userId: user.id, name: user.name, email: user.email })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(and(eq(attempt.sittingId, quiz()?.id ?? ''), eq(attempt.state, 'handed-in')))
    .orderBy(user.name)
    .get() as { userId: string; name: string; email: string };
const publishedTo = (userId: string) =>
  house.db
    .select()
    .from(publication)
    .where(and(eq(publication.sittingId, quiz()?.id ?? ''), eq(publication.userId, userId)))
    .all()
    .filter((row) => row.withdrawnAt === null);

it('from an open sitting to its results: plan, publish, review, reply, a mark that changes, the change published, export', async () => {
  const page = await house.page(teacher);
  const whom = handedIn();

  // What students see is set in a sentence and applied; before it, the student is shown nothing.
  const student = await house.page(whom.email, phone);
  const mine = `${house.served.origin}/my/results/${quiz()?.id}`;
  await student.goto(mine);
  await shows(student, 'There is nothing to see of this yet.');
  await page.goto(here());
  await page.locator('button[aria-label^="What students see: "]').click();
  await page.locator('::-p-xpath(//fieldset//label[contains(., "Everything on publishing")])').click();
  await press(page, 'Apply the changes');
  await shows(page, 'The changes hold from now on.');
  expect(quiz()?.releasePlan['right-answers']).toEqual([{ begins: { kind: 'on-publishing' } }]);

  // Publishing while others write: the leak is said, taken on, and everyone named is acted on.
  await page.goto(`${here()}/results`);
  await press(page, 'Publish 9 results');
  await shows(page, 'others in this sitting may still be writing');
  await page.locator('::-p-xpath(//label[contains(., "I take that on")])').click();
  await press(page, 'Publish');
  await shows(page, '9 results have been published');
  const before = publishedTo(whom.userId)[0]?.earned ?? -1;

  // The student reads it on a phone, and replies.
  await student.goto(mine);
  await shows(student, `${before} of 10`);
  expect(await student.$$('article li section')).not.toHaveLength(0);
  await fill(student, 'What do you take from this, and what is unclear?', 'Question 1 is not clear to me.');
  await press(student, 'Send the reply');
  await shows(student, 'not read yet');

  // The instructor reads it, answers, gives other points with a reason, and publishes the change.
  await page.goto(`${here()}/results`);
  await page.locator('summary').click();
  await shows(page, 'Question 1 is not clear to me.');
  await page.locator('button[aria-label^="Answer "]').click();
  await page.locator('form textarea').fill('See the figure beside it.');
  await press(page, 'Send the answer');
  await shows(page, 'has been answered.');
  // The student is told, and finds it under what they wrote.
  await student.goto(`${house.served.origin}/my`);
  await shows(student, 'An answer to your reply: Steering-rules quiz');
  await student.goto(mine);
  await shows(student, 'See the figure beside it.');
  const news = async () => {
    await student.goto(`${house.served.origin}/my`);
    await shows(student, 'My exams');
    return student.$eval('main', (main) => main.textContent);
  };
  await expect.poll(news).not.toContain('An answer to your reply');
  await student.goto(mine);
  await page.goto(`${here().replace('/sittings/', '/marking/')}/students/${whom.userId}`);
  await page
    .locator('::-p-xpath((//button[starts-with(normalize-space(.), "Adjust") and contains(., "question 1")])[1])')
    .click();
  const now = await page.$eval('form input', (input) => (input as HTMLInputElement).value);
  await fill(page, 'Points, 0 to 1', now === '1' ? '0' : '1');
  await fill(page, 'Reason, told to the student', 'The figure was missing on this paper.');
  await press(page, 'Adjust the mark');
  await shows(page, 'Question 1 is adjusted.');
  const after = before + (now === '1' ? -1 : 1);
  await student.reload();
  await shows(student, `${before} of 10`);
  await page.goto(`${here()}/results`);
  await shows(page, '1 result differs from what was published.');
  await press(page, 'Publish 1 change');
  await shows(page, `${before} → ${after} of 10`);
  await page.locator('::-p-xpath(//div[@role="dialog"]//button[normalize-space(.)="Publish"])').click();
  await shows(page, '1 result has been published');
  await student.reload();
  await shows(student, `${after} of 10`);
  await shows(student, 'Your points were set by hand: The figure was missing on this paper.');
  await shows(student, 'Answered by ');

  // It stands in the gradebook with its history, is explained, and goes out.
  await page.goto(`${house.served.origin}/c/${quiz()?.courseId}/gradebook`);
  await page.locator(`[role=gridcell][aria-label^="Steering-rules quiz of ${whom.name}: ${after}.0 of 10"]`).click();
  await shows(page, 'History of this cell');
  await shows(page, `${before} of 10 published`);
  await page.focus(`[role=gridcell][aria-label^="Total of ${whom.name}"]`);
  await page.keyboard.press('Enter');
  await shows(page, 'How was this computed?');
  await shows(page, `Steering-rules quiz: ${after} of 10.`);
  await press(page, 'Try other numbers');
  await fill(page, 'Steering-rules quiz (of 10)', '10');
  await shows(page, 'Steering-rules quiz: 10 of 10.');
  const book = `${house.served.origin}/c/${quiz()?.courseId}/gradebook/sheet`;
  const out = await page.evaluate(async (address) => {
    const csv = await (await fetch(`${address}?format=csv`)).text();
    const bare = await (await fetch(`${address}?format=csv&names=no`)).text();
    const xlsx = await fetch(`${address}?format=xlsx`);
    return { csv, bare, status: xlsx.status, type: xlsx.headers.get('content-type') };
  }, book);
  expect(out.csv).toContain(whom.name);
  expect(out.bare).not.toContain(whom.name);
  expect([out.status, out.type]).toEqual([200, 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet']);
});

it('missed questions are studied as cards by keyboard alone; another’s are out of reach', async () => {
  const middle = house.db.select().from(sitting).where(eq(sitting.title, 'Mid-course theory exam')).get();
  // Who earned least has several cards: some students have one, or none.
  const some = house.db
    .select({ email: user.email })
    .from(publication)
    .innerJoin(user, eq(user.id, publication.userId))
    .where(eq(publication.sittingId, middle?.id ?? ''))
    .orderBy(publication.earned, user.name)
    .get();
  const page = await house.page(some?.email ?? '', phone);
  await page.goto(`${house.served.origin}/my/results/${middle?.id}/cards`);
  await canBeUsed(page);
  await shows(page, 'Card 1 of');
  const heading = await page.$eval('h1', (one) => one.textContent ?? '');
  const count = Number(/of (\d+)/.exec(heading)?.[1]);
  expect(count).toBeGreaterThan(2);
  await page.focus('h1');
  // One that was not known comes again; where one was, is found again after a reload.
  await page.keyboard.press('Space');
  await page.waitForSelector('section[aria-label="Answer"]');
  await page.keyboard.press('1');
  await page.waitForSelector('section[aria-label="Question"]');
  await page.keyboard.press('Space');
  await page.waitForSelector('section[aria-label="Answer"]');
  await page.keyboard.press('2');
  await shows(page, `Card 2 of ${count}`);
  await page.reload();
  await shows(page, `1 known, ${count - 1} to go`);
  await page.focus('h1');
  for (let i = 1; i < count; i++) {
    await page.waitForSelector('section[aria-label="Question"]');
    await page.keyboard.press('Space');
    await page.waitForSelector('section[aria-label="Answer"]');
    await page.keyboard.press('2');
  }
  await shows(page, 'All cards known');
  // Cards of a sitting whose right answers are not shown, and sheets, are not there for a student.
  const statuses = await page.evaluate(
    (addresses) => Promise.all(addresses.map(async (address) => (await fetch(address)).status)),
    [
      `/my/results/${planning()?.id}/cards`,
      `/c/${middle?.courseId}/sittings/${middle?.id}/sheets/archive`,
      '/my/results/none',
    ],
  );
  expect(statuses).toEqual([404, 403, 404]);
});

it('a sitting is looked at as a student at a moment, and feedback sheets are laid out and printed for those picked', async () => {
  const middle = house.db.select().from(sitting).where(eq(sitting.title, 'Mid-course theory exam')).get();
  const page = await house.page(teacher);
  const at = `${house.served.origin}/c/${middle?.courseId}/sittings/${middle?.id}`;
  await page.goto(`${at}/as-student`);
  await shows(page, 'Your paper');
  await press(page, 'a minute after: it opens');
  await shows(page, 'There is nothing to see of this yet.');
  await page.locator('::-p-xpath(//label[contains(., "as if all results had been published")])').click();
  await page.waitForFunction(() => !document.body?.textContent?.includes('There is nothing to see of this yet.'));

  await page.goto(`${at}/sheets`);
  await shows(page, 'Dear ');
  await page.locator('button[aria-label="Remove Results by objective"]').click();
  await page.waitForFunction(() => !document.querySelector('article')?.textContent?.includes('By objective'));
  await press(page, 'Save this layout');
  await shows(page, 'Saved for this course');
  // For two of all, each into a file of the student's name.
  await page.locator('details summary').click();
  const [all, ...ticks] = await page.$$('details label');
  await all?.click();
  const chosen: string[] = [];
  for (const tick of ticks.slice(0, 2)) {
    await tick.click();
    chosen.push(await tick.evaluate((label) => label.textContent ?? ''));
  }
  await press(page, 'Print 2 sheets');
  await shows(page, 'Take the archive with 2 sheets', 90_000);
  const archive = await page.evaluate(async (address) => {
    const answer = await fetch(address);
    return [...new Uint8Array(await answer.arrayBuffer())];
  }, `${at}/sheets/archive`);
  const files = unzipSync(new Uint8Array(archive));
  expect(Object.keys(files)).toEqual(chosen.map((name) => `${name}.pdf`));
  for (const file of Object.values(files)) expect(Buffer.from(file).toString('latin1', 0, 5)).toBe('%PDF-');

  await page.goto(`${at}/results/printed`);
  await page.locator('::-p-xpath(//label[contains(., "By question")]/input)').click();
  await press(page, 'Print “By question”');
  await shows(page, 'Open “By question”', 90_000);
  const report = await page.evaluate(async (address) => {
    const answer = await fetch(address);
    return [answer.status, answer.headers.get('content-type')];
  }, `${at}/results/printed/pdf`);
  expect(report).toEqual([200, 'application/pdf']);
}, 240_000);

/** Pastes a text into one of the cells of a grid. */
const pasteInto = (page: Page, cells: string, place: number, text: string) =>
  page.evaluate(
    (selector, at, pasted) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', pasted);
      const paste = new ClipboardEvent('paste', { bubbles: true, cancelable: true, clipboardData });
      [...document.querySelectorAll<HTMLElement>(selector)][at]?.dispatchEvent(paste);
    },
    cells,
    place,
    text,
  );

it('scores are typed into the gradebook by keyboard alone and pasted as a column; each is taken back', async () => {
  const page = await house.page(teacher);
  await page.goto(`${house.served.origin}/c/${quiz()?.courseId}/gradebook`);
  await page.waitForSelector('td[data-typed]');
  const { columnId, students } = await page.evaluate(() => {
    const cells = [...document.querySelectorAll<HTMLElement>('td[data-typed]')];
    cells[0]?.focus();
    return {
      columnId: cells[0]?.getAttribute('aria-label')?.split(' of ')[0],
      students: cells.slice(0, 4).map((cell) => cell.closest<HTMLElement>('[data-row]')?.dataset.row ?? ''),
    };
  });
  expect(columnId).toBe('Logbook');
  const stand = () =>
    students.map(
      (userId) =>
        house.db
          .select()
          .from(gradeEntry)
          .where(and(eq(gradeEntry.userId, userId), isNull(gradeEntry.takenBackAt)))
          .orderBy(desc(gradeEntry.id))
          .all()
          .find((one) => !one.excused)?.points ?? null,
    );
  const before = stand();
  await page.keyboard.type('9,5');
  await page.keyboard.press('Enter');
  await page.keyboard.type('1');
  await page.keyboard.press('Enter');
  await expect.poll(() => stand().slice(0, 2)).toEqual([9.5, 1]);
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await expect.poll(stand).toEqual([9.5, ...before.slice(1)]);
  await pasteInto(page, 'td[data-typed]', 1, '2\n3\nill');
  await shows(page, '“ill” is no number.');
  await press(page, 'Enter 2 scores');
  await expect.poll(stand).toEqual([9.5, 2, 3, before[3]]);
  await press(page, 'Undo');
  await expect.poll(stand).toEqual([9.5, ...before.slice(1)]);
});

it('sections, numbers and extra time are typed into the list of people; what the network loses is sent later, and two windows do not overwrite one another', async () => {
  const courseId = quiz()?.courseId ?? '';
  const people = `${house.served.origin}/c/${courseId}/people`;
  const page = await house.page(teacher);
  await page.goto(people);
  await page.waitForSelector('td[data-typed]');
  /** Goes to a cell of one of the first students. */
  const into = (row: number, column: string, on = page) =>
    on.evaluate(
      (at, name) => [...document.querySelectorAll<HTMLElement>(`td[data-cell=${name}]`)][at]?.focus(),
      row,
      column,
    );
  const ids = await page.$$eval('td[data-cell=section]', (cells) =>
    cells.slice(0, 3).map((cell) => cell.closest<HTMLElement>('[data-row]')?.dataset.row ?? ''),
  );
  const stand = () =>
    ids.map((id) => {
      const row = house.db
        .select({ section: section.name, number: membership.studentNumber, standing: membership.standing })
        .from(membership)
        .leftJoin(section, eq(section.id, membership.sectionId))
        .where(eq(membership.id, id))
        .get();
      return [row?.section ?? null, row?.number ?? null, row?.standing?.extraPercent ?? 0];
    });
  const before = stand();
  const [first, second, third] = before;
  await into(0, 'section');
  await page.keyboard.type('Night');
  await page.keyboard.press('Enter');
  await shows(page, 'There is no section “Night” yet. Enter once more if it is meant.');
  await page.keyboard.press('Enter');
  await expect.poll(() => stand()[0]).toEqual(['Night', ...(first?.slice(1) ?? [])]);
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await expect.poll(stand).toEqual(before);
  // The empty section went with it.
  await page.reload();
  await page.waitForSelector('td[data-typed]');
  expect(await page.$eval('main', (main) => main.textContent)).not.toContain('Night');

  // Another window changes what this one shows: nothing is overwritten.
  const other = await house.page(teacher);
  await other.goto(people);
  await other.waitForSelector('td[data-typed]');
  await into(1, 'extraPercent', other);
  await other.bringToFront();
  await other.keyboard.type('30');
  await other.keyboard.press('Enter');
  await expect.poll(() => stand()[1]?.[2]).toBe(30);
  await page.bringToFront();
  await into(1, 'extraPercent');
  await page.keyboard.type('50');
  await page.keyboard.press('Enter');
  await shows(page, 'extra time: this cell has been changed meanwhile. Look again.');
  expect(stand()[1]?.[2]).toBe(30);
  await press(page, 'Give it up');

  // Without the network it is kept, and sent when there is one again.
  await page.setOfflineMode(true);
  await into(2, 'extraPercent');
  await page.keyboard.type('25');
  await page.keyboard.press('Enter');
  await shows(page, '1 cell typed here is not saved, and kept in this browser.');
  expect(stand()[2]).toEqual(third);
  await page.setOfflineMode(false);
  await expect.poll(() => stand()[2]?.[2]).toBe(25);

  await pasteInto(page, 'td[data-cell=studentNumber]', 0, '9001\n9002');
  await press(page, 'Enter 2 cells');
  await expect.poll(() => stand().map((one) => one[1])).toEqual(['9001', '9002', third?.[1]]);
  await press(page, 'Undo');
  await expect.poll(() => stand().map((one) => one[1])).toEqual([first?.[1], second?.[1], third?.[1]]);
});
