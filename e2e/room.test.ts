import { and, eq } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { expect, it } from 'vitest';
import {
  attempt,
  audit,
  exam,
  question,
  questionReport,
  response,
  session,
  sitting,
  sittingAudience,
  user,
} from '../src/db/schema';
import { canBeUsed, phone } from './browser';
import { giveSitting } from './giveExam';
import { fill, openHouse, press, shows } from './house';
import { moveClock, post } from './serve';

const house = openHouse();
const teacher = 'ingrid.sollie@ternpoint.example';
const examId = () => house.db.select().from(exam).where(eq(exam.title, 'Steering-rules quiz')).get()?.id ?? '';
const course = () => `/c/${house.db.select().from(sitting).get()?.courseId}`;
const answersOf = (attemptId: string) =>
  house.db.select().from(response).where(eq(response.attemptId, attemptId)).all();
const attemptOf = (sittingId: string, email: string) =>
  house.db
    .select({ id: attempt.id, state: attempt.state, endedBy: attempt.endedBy })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(and(eq(attempt.sittingId, sittingId), eq(user.email, email)))
    .get();

/** A student at the first question of a sitting. */
async function begin(sittingId: string, email: string, size?: { width: number; height: number }): Promise<Page> {
  const page = await house.page(email, size);
  await page.goto(`${house.served.origin}/my/exams/${sittingId}`);
  await page.locator('::-p-xpath(//button[starts-with(normalize-space(.), "Start now")])').click();
  await page.waitForSelector('input[type=radio]:not(:disabled)');
  return page;
}
const pick = (page: Page, n: number) => page.locator(`main li:nth-child(${n}) label`).click();
/** Opens what can be done for one student of a room. */
const student = (page: Page, name: string) =>
  page.locator(`::-p-xpath(//td//button[starts-with(normalize-space(.), "${name}")])`).click();
const room = async (sittingId: string): Promise<Page> => {
  const page = await house.page(teacher);
  await page.goto(`${house.served.origin}${course()}/sittings/${sittingId}/room`);
  return page;
};

it('the room is live: what a student does shows by itself, and what the invigilator does reaches the open page within five seconds', async () => {
  const sittingId = giveSitting(house.db, examId(), 'Live', { timeLimitMinutes: 60 });
  const email = 'zoe.papathanou@ternpoint.example';
  const watch = await room(sittingId);
  await shows(watch, '28 have not come');
  const page = await begin(sittingId, email);
  const { id } = attemptOf(sittingId, email) as { id: string };
  await shows(watch, '1 nothing answered yet');
  await pick(page, 1);
  await shows(watch, '1 writing');

  // More time: the clock of the page follows without a word from it.
  await student(watch, 'Zoë Papathanou');
  const left = () =>
    page.$eval('header', (header) => /(\d+:\d\d(?::\d\d)?) left/.exec(header.textContent ?? '')?.[1] ?? '');
  expect(await left()).toMatch(/^59:|^1:00:00/);
  await watch.locator('::-p-xpath(//section[@aria-label="More time"]//button)').click();
  await page.waitForFunction(() => /1:0[45]:\d\d left/.test(document.querySelector('header')?.textContent ?? ''), {
    timeout: 5_000,
  });

  // A message to the room, read and gone.
  await press(watch, 'Message to the room');
  await fill(watch, 'What they are to read', 'The clock on the wall is wrong.');
  await press(watch, 'Send');
  await page.waitForFunction(() => document.body?.textContent?.includes('The clock on the wall is wrong.'), {
    timeout: 5_000,
  });
  await press(page, 'I have read it');
  expect(await page.evaluate(() => document.body?.textContent?.includes('on the wall is wrong'))).toBe(false);

  // Handed in for the student, opened again, voided, taken back.
  await press(watch, 'Hand in for them');
  await watch.locator('::-p-xpath(//*[@role="dialog"]//button[.="Hand in"])').click();
  await shows(page, 'It was handed in for you.');
  expect(attemptOf(sittingId, email)).toMatchObject({ state: 'handed-in', endedBy: 'invigilator' });
  await shows(watch, 'handed in for them');
  await press(watch, 'Open again');
  await fill(watch, 'Reason', 'pressed by mistake');
  await watch.locator('::-p-xpath(//*[@role="dialog"]//button[.="Open again"])').click();
  await shows(watch, 'Zoë Papathanou may go on.');
  await page.goto(`${house.served.origin}/take/${id}`);
  await shows(page, 'Every answer is saved');
  await shows(watch, 'Hand in for them');
  await press(watch, 'Void');
  await fill(watch, 'Reason', 'sat in the wrong place');
  await press(watch, 'Void it');
  await shows(watch, 'is voided.');
  await press(watch, 'Take the voiding back');
  await shows(watch, 'no longer voided');
  expect(attemptOf(sittingId, email)?.state).toBe('running');
  await shows(watch, 'pressed by mistake');
});

it('answers typed offline before the deadline that arrive after it are kept aside, and the invigilator lets them count', async () => {
  const sittingId = giveSitting(house.db, examId(), 'Lost line', { timeLimitMinutes: 30 });
  const email = 'keoni.kahananui@ternpoint.example';
  const page = await begin(sittingId, email);
  const { id } = attemptOf(sittingId, email) as { id: string };
  await pick(page, 1);
  await shows(page, 'Saved ');
  await page.setOfflineMode(true);
  for (const next of [2, 3]) {
    await press(page, 'Next');
    await shows(page, `Question ${next} of`);
    await pick(page, 2);
  }
  await shows(page, 'No connection. 2 answers are kept here and will be sent.');
  expect(answersOf(id)).toHaveLength(1);
  await moveClock(house.served.origin, 31 * 60_000);
  await expect.poll(() => attemptOf(sittingId, email)?.state, { timeout: 15_000 }).toBe('handed-in');
  await page.setOfflineMode(false);
  await shows(page, 'Handed in');
  expect(answersOf(id)).toHaveLength(1);

  const watch = await room(sittingId);
  await shows(watch, '2 answers kept aside');
  await student(watch, 'Keoni Kahananui');
  await shows(watch, 'in time');
  await watch.locator('::-p-xpath(//button[.="Let it count"])').click();
  await shows(watch, '1 answer kept aside');
  await watch.locator('::-p-xpath(//button[.="Leave it out"])').click();
  await watch.waitForFunction(() => !/\d answers? kept aside/.test(document.body?.textContent ?? ''));
  expect(answersOf(id)).toHaveLength(2);
  await moveClock(house.served.origin, 0);
});

it('a code, the way onward only, and tries: each question is checked as it comes, and there is no way back', async () => {
  const sittingId = giveSitting(house.db, examId(), 'Onward', {
    further: { entryCode: 'Gull 12', onwardOnly: true, learning: 'as-they-go', tries: { most: 2, cost: 0.5 } },
  });
  const page = await house.page('hana.mizushiro@ternpoint.example', phone);
  await page.goto(`${house.served.origin}/my/exams/${sittingId}`);
  await shows(page, 'You cannot go back to a question you have left.');
  await shows(page, 'tried 2 times, each further try costing 50 % of the credit');
  await press(page, 'Start now: 2 h');
  await shows(page, 'Type the entry code.');
  await fill(page, 'Entry code', 'gull12');
  await press(page, 'Start now: 2 h');
  await page.waitForSelector('input[type=radio]:not(:disabled)');
  const said = async () =>
    (await page.$eval('article', (one) => one.textContent ?? '')).includes('It is closed now.') ||
    (await page.$eval('article', (one) => one.textContent ?? '')).includes('Right.');
  await pick(page, 1);
  await press(page, 'Check question 1 (try 1 of 2)');
  await page.waitForFunction(() => /Right\.|Not right\./.test(document.querySelector('article')?.textContent ?? ''));
  if (!(await said())) {
    await shows(page, 'One try is left.');
    await pick(page, 2);
    await press(page, 'Check question 1 (try 2 of 2)');
    await page.waitForFunction(() =>
      /Right\.|It is closed now\./.test(document.querySelector('article')?.textContent ?? ''),
    );
  }
  await page.waitForFunction(() =>
    [...document.querySelectorAll('article input[type=radio]')].every((one) => one.matches(':disabled')),
  );
  await press(page, 'Go on: no way back');
  await shows(page, 'Question 2 of');
  await page.reload();
  await shows(page, 'Question 2 of');
});

it('on the narrowest phone a question is tried, checked and reported by keyboard alone, and the focus is never lost', async () => {
  const sittingId = giveSitting(house.db, examId(), 'By keyboard', {
    further: { learning: 'as-they-go', tries: { most: 2, cost: 0.5 } },
  });
  const page = await house.page('hana.mizushiro@ternpoint.example', { width: 360, height: 780 });
  await page.goto(`${house.served.origin}/my/exams/${sittingId}`);
  /** Goes on, or back, by Tab until the focus stands on what is called so. */
  const tabTo = async (name: RegExp, back = false) => {
    for (let i = 0; i < 60; i++) {
      if (back) await page.keyboard.down('Shift');
      await page.keyboard.press('Tab');
      if (back) await page.keyboard.up('Shift');
      const now = await page.evaluate(() => document.activeElement?.textContent || document.activeElement?.tagName);
      if (name.test(now ?? '')) return;
    }
    throw new Error(`No way by keyboard to ${name}`);
  };
  const holdsFocus = () => page.evaluate(() => document.activeElement !== document.body);
  await tabTo(/^Start now/);
  await page.keyboard.press('Enter');
  await page.waitForSelector('article input[type=radio]:not(:disabled)');
  const outcome = () =>
    page.waitForFunction(() => /Right\.|Not right\./.test(document.querySelector('article')?.textContent ?? ''));
  for (const tried of [1, 2]) {
    await tabTo(/^INPUT$/, tried === 2);
    await page.keyboard.press(tried === 1 ? 'Space' : 'ArrowDown');
    await tabTo(/^Check question 1/);
    await page.keyboard.press('Enter');
    await outcome();
    await page.waitForFunction(() => !document.querySelector('[aria-busy=true]'));
    await page.waitForFunction(() => document.activeElement !== document.body);
    if (
      await page.evaluate(() => /Right\.|It is closed now\./.test(document.querySelector('article')?.textContent ?? ''))
    )
      break;
  }
  await tabTo(/^Something is wrong with this question/);
  await page.keyboard.press('Enter');
  await page.keyboard.type('Two of these are right.');
  await tabTo(/^Tell my instructor/);
  await page.keyboard.press('Enter');
  await shows(page, 'Your instructor has it.');
  expect(await holdsFocus()).toBe(true);
  await tabTo(/^Next/);
  await page.keyboard.press('Enter');
  await shows(page, 'Question 2 of');
  await tabTo(/^Something is wrong with this question/);
  await page.keyboard.press('Enter');
  await tabTo(/^Never mind/);
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => /^Something is wrong/.test(document.activeElement?.textContent ?? ''));
});

it('anyone with the link types a name, takes it, and stands on no list of the course', async () => {
  const sittingId = giveSitting(house.db, examId(), 'Open day', { attemptsAllowed: null, who: { kind: 'link' } });
  const secret = house.db.select().from(sittingAudience).where(eq(sittingAudience.sittingId, sittingId)).get()?.refId;
  const page = await house.page(null, phone);
  await page.goto(`${house.served.origin}/join/${secret}`);
  await press(page, 'Go on');
  await shows(page, 'Type your name.');
  await fill(page, 'Your name', 'Visiting Vera');
  await press(page, 'Go on');
  await shows(page, 'Start now');
  await canBeUsed(page);
  await page.locator('::-p-xpath(//button[starts-with(normalize-space(.), "Start now")])').click();
  await page.waitForSelector('input[type=radio]:not(:disabled)');
  await pick(page, 1);
  await shows(page, 'Saved ');
  // They have no password to come back with: what lets them in outlives a closed browser.
  const kept = (await page.browserContext().cookies()).find((one) => one.name.endsWith('session_token'));
  expect((kept?.expires ?? 0) * 1_000 - Date.now()).toBeGreaterThan(6 * 24 * 3_600_000);
  const vera = house.db.select().from(user).where(eq(user.name, 'Visiting Vera')).get();
  const stays = house.db
    .select()
    .from(session)
    .where(eq(session.userId, vera?.id ?? ''))
    .get();
  expect((stays?.expiresAt.getTime() ?? 0) - Date.now()).toBeGreaterThan(6 * 24 * 3_600_000);
  const watch = await room(sittingId);
  await shows(watch, 'Visiting Vera');
  await watch.goto(`${house.served.origin}${course()}/people`);
  await shows(watch, 'Zoë Papathanou');
  expect(await watch.evaluate(() => document.body?.textContent?.includes('Visiting Vera'))).toBe(false);
  await page.goto(`${house.served.origin}/my`);
  expect(await page.$$eval('main h3', (all) => all.map((one) => one.textContent))).toEqual(['Open day']);
  await page.goto(`${house.served.origin}/join/nowhere-at-all-1234`);
  await shows(page, 'This link leads nowhere');
});

it('a student says that something is wrong; the correction stands on exactly the papers that hold the question, and one answer goes to all', async () => {
  const sittingId = giveSitting(house.db, examId(), 'Reported');
  const page = await begin(sittingId, 'farid.tahmasebi@ternpoint.example');
  await press(page, 'Something is wrong with this question (question 1)');
  await press(page, 'Tell my instructor');
  await shows(page, 'Say what is wrong.');
  await fill(page, 'What is wrong with question 1?', 'Two choices are the same.');
  await press(page, 'Tell my instructor');
  await shows(page, 'Your instructor has it.');
  const report = house.db.select().from(questionReport).where(eq(questionReport.sittingId, sittingId)).get();
  const watch = await room(sittingId);
  await press(watch, 'Reported questions (1)');
  await shows(watch, 'Two choices are the same.');
  const name =
    house.db
      .select()
      .from(question)
      .where(eq(question.id, report?.questionId ?? ''))
      .get()?.shortName ?? '';
  await shows(watch, name);
  await fill(watch, 'A correction', 'Read “port” in choice B.');
  await press(watch, 'Put it on the papers');
  await shows(watch, 'The correction stands on 1 paper.');
  await page.waitForFunction(
    () => document.querySelector('article')?.textContent?.includes('Read “port” in choice B.'),
    {
      timeout: 5_000,
    },
  );
  await fill(watch, 'An answer to the one who reported it', 'Thank you, it is corrected.');
  await press(watch, 'Answer');
  await shows(watch, '1 report is answered.');
  await press(watch, 'Take it back');
  await page.waitForFunction(() => !document.body?.textContent?.includes('Read “port” in choice B.'), {
    timeout: 5_000,
  });
});

it('the try-out holds a question of each type, on the narrowest phone, and keeps nothing', async () => {
  const page = await house.page('farid.tahmasebi@ternpoint.example', { width: 360, height: 740 });
  await page.goto(`${house.served.origin}/my`);
  await press(page, 'Try a question of each type');
  const before = house.db.select().from(audit).all().length;
  for (let n = 1; n <= 11; n++) {
    await shows(page, `Question ${n} of 11`);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
    if (n === 1) await page.locator('::-p-xpath(//label[contains(., "Autumn")])').click();
    await press(page, n < 11 ? 'Next' : 'To the hand-in');
  }
  await press(page, 'Hand in');
  await shows(page, 'You answered 1 of 11 questions, and 1 of them in full.');
  expect(house.db.select().from(audit).all()).toHaveLength(before);
});

it('from outside the range a request is refused, whatever its forwarding header says', async () => {
  const sittingId = giveSitting(house.db, examId(), 'Networked', { further: { networks: ['10.9.0.0/16'] } });
  const cookies = await house.cookiesOf('farid.tahmasebi@ternpoint.example');
  const forged = await fetch(`${house.served.origin}/api/attempts/start`, {
    method: 'POST',
    headers: {
      'content-type': 'application/json',
      origin: house.served.origin,
      cookie: cookies,
      'x-forwarded-for': '10.9.1.1',
      'x-real-ip': '10.9.1.1',
      forwarded: 'for=10.9.1.1',
    },
    body: JSON.stringify({ sittingId }),
  });
  expect(forged.status).toBe(403);
  const logged = house.db.select().from(audit).where(eq(audit.action, 'refused.entry.network')).get();
  expect(logged).toMatchObject({ subjectId: sittingId, detail: { address: '127.0.0.1' } });
  expect((await post(house.served.origin, '/api/attempts/start', { sittingId }, cookies)).status).toBe(403);
});
