import { and, eq } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { afterEach, describe, expect, it } from 'vitest';
import { minute, second } from '../src/core/base/time';
import {
  attempt,
  exam,
  outbox,
  paperSlot,
  response,
  responseAside,
  sitting,
  sittingNote,
  user,
} from '../src/db/schema';
import { phone } from './browser';
import { Clocks } from './clocks';
import { giveExam, giveSitting } from './giveExam';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();
const clocks = new Clocks(house);
const examId = () => house.db.select().from(exam).where(eq(exam.title, 'Steering-rules quiz')).get()?.id ?? '';
const course = () => `/c/${house.db.select().from(sitting).get()?.courseId}`;
const email = 'zoe.papathanou@ternpoint.example';
const attemptOf = (sittingId: string) =>
  house.db
    .select({ row: attempt })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(and(eq(attempt.sittingId, sittingId), eq(user.email, email)))
    .get()?.row;
const asides = (sittingId: string) =>
  house.db
    .select({ aside: responseAside })
    .from(responseAside)
    .innerJoin(paperSlot, eq(paperSlot.id, responseAside.slotId))
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .where(eq(attempt.sittingId, sittingId))
    .all();
const answers = (sittingId: string) =>
  house.db
    .select({ value: response.value })
    .from(response)
    .innerJoin(attempt, eq(attempt.id, response.attemptId))
    .where(eq(attempt.sittingId, sittingId))
    .all()
    .filter((row) => row.value !== null);

/** A student at the first question of a sitting. */
async function begin(sittingId: string, size = phone): Promise<Page> {
  const page = await clocks.follow(await house.page(email, size));
  await page.goto(`${house.served.origin}/my/exams/${sittingId}`);
  await page.locator('::-p-xpath(//button[starts-with(normalize-space(.), "Start now")])').click();
  await page.waitForSelector('input[type=radio]:not(:disabled)');
  return page;
}
const pick = (page: Page, n: number) => page.locator(`main li:nth-child(${n}) label`).click();
const decided = (page: Page, name: string) =>
  page.locator(`::-p-xpath(//*[@role="dialog"]//button[.="${name}"])`).click();
async function room(sittingId: string): Promise<Page> {
  const page = await house.page(teacher);
  await page.goto(`${house.served.origin}${course()}/sittings/${sittingId}/room`);
  return page;
}

afterEach(() => clocks.back());

describe('the network is gone when the time ends', () => {
  it('in a grace the hand-in that was pressed is carried out, and the answers are told as kept aside', async () => {
    const sittingId = giveSitting(house.db, examId(), 'Grace', {
      timeLimitMinutes: 30,
      further: { expiry: { kind: 'grace', minutes: 4 } },
    });
    const page = await begin(sittingId);
    await pick(page, 1);
    await shows(page, 'Saved ');
    await clocks.cut(page);
    await press(page, 'Next');
    await pick(page, 2);
    await shows(page, 'No connection. 1 answer is kept here and will be sent.');
    await clocks.pass(31 * minute);
    await shows(page, 'Your answers count only if you hand in until');
    await shows(page, 'left to hand in');
    await press(page, 'Send my answers and hand in');
    await shows(page, 'You pressed “Hand in” at');
    await page.setOfflineMode(false);
    await shows(page, 'You handed it in.');
    await shows(page, 'Question 2: an answer came');
    await shows(page, 'in time. It is kept, and your instructor decides whether it counts.');
    expect(attemptOf(sittingId)).toMatchObject({ state: 'handed-in', endedBy: 'student' });
    expect(asides(sittingId)).toHaveLength(1);
    // The list of exams says the same; so do desk, room and results, and publishing names it.
    await press(page, 'Back to my exams');
    await shows(page, '1 answer of yours is kept aside: your instructor decides about it.');
    const watch = await house.page(teacher);
    await watch.goto(`${house.served.origin}${course()}`);
    await shows(watch, '1 answer kept aside, of 1 student');
    await watch.goto(`${house.served.origin}${course()}/sittings/${sittingId}/results`);
    await shows(watch, 'Waits for a decision: 1 answer kept aside, of 1 student (Zoë Papathanou)');
    await press(watch, 'Publish 1 result');
    await shows(watch, 'Not decided yet, and not in these results:');
    await decided(watch, 'Not now');
    await press(watch, 'Decide in the room');
    await press(watch, 'Show whose answers');
    await watch.locator('::-p-xpath(//td//button[starts-with(normalize-space(.), "Zoë")])').click();
    await press(watch, 'Let it count');
    await watch.waitForFunction(() => !document.body?.textContent?.includes('Waits for a decision'));
    expect(answers(sittingId)).toHaveLength(2);
    await page.goto(`${house.served.origin}/my/receipts/${attemptOf(sittingId)?.id}`);
    await shows(page, 'It has been counted after all.');
    await shows(page, '2 of 10 questions answered');
  });

  it('without one the fields close at the deadline as last heard, and what was given in time stays what it was', async () => {
    const sittingId = giveSitting(house.db, examId(), 'Closed line', { timeLimitMinutes: 30 });
    const page = await begin(sittingId);
    await clocks.cut(page);
    await pick(page, 1);
    await shows(page, 'No connection. 1 answer is kept here and will be sent.');
    const given = await page.$eval('main input:checked', (input) => (input as HTMLInputElement).value);
    await clocks.pass(31 * minute);
    await shows(page, 'Nothing more can be entered.');
    await shows(page, 'leave this page open');
    expect(
      await page.$$eval('main input', (all) => all.every((input) => (input as HTMLInputElement).matches(':disabled'))),
    ).toBe(true);
    await page.setOfflineMode(false);
    await shows(page, 'Question 1: an answer came');
    expect(asides(sittingId).map(({ aside }) => [aside.value, aside.reason])).toEqual([[{ picked: given }, 'late']]);
    expect(attemptOf(sittingId)).toMatchObject({ state: 'handed-in', endedBy: 'clock' });
    await shows(page, '0 of 10 questions answered');
  });

  it('a hand-in that reaches the server after the grace is told to both, and can be counted', async () => {
    const sittingId = giveSitting(house.db, examId(), 'After the grace', {
      timeLimitMinutes: 30,
      further: { expiry: { kind: 'grace', minutes: 2 } },
    });
    const page = await begin(sittingId);
    await pick(page, 1);
    await shows(page, 'Saved ');
    await clocks.cut(page);
    await press(page, 'I am finished: to the hand-in');
    await press(page, 'Hand in');
    await shows(page, 'You pressed “Hand in” at');
    await clocks.pass(40 * minute);
    await expect.poll(() => attemptOf(sittingId)?.state, { timeout: 15_000 }).toBe('not-handed-in');
    await page.setOfflineMode(false);
    await shows(page, 'Not handed in in time');
    await shows(page, 'tell your instructor: it can be counted, or opened again');
    const watch = await room(sittingId);
    await shows(watch, 'Waits for a decision: 1 incident');
    await shows(watch, 'hand-in came after the time allowed for it; by the browser’s clock it was pressed');
    await watch.locator('::-p-xpath(//td//button[starts-with(normalize-space(.), "Zoë")])').click();
    await press(watch, 'Count it as handed in');
    await decided(watch, 'Hand in');
    // The receipt that is open hears of it.
    await shows(page, 'It was handed in for you.');
    await watch.locator('::-p-xpath(//button[starts-with(normalize-space(.), "Settled")])').click();
    await watch.waitForFunction(() => !document.body?.textContent?.includes('Waits for a decision'));
    expect(
      house.db.select().from(sittingNote).where(eq(sittingNote.sittingId, sittingId)).get()?.settledAt,
    ).not.toBeNull();
  });
});

describe('onward only', () => {
  it('is asked first where questions are left for good; what has to be answered holds it up, and nobody is stuck', async () => {
    const { sittingId } = giveExam(
      house.db,
      'One way',
      (design) => {
        const names = house.db.$client
          .prepare("select id from question where type = 'single-choice' and retired_at is null limit 4")
          .pluck()
          .all() as string[];
        const lines = names.map((questionId, i) => ({
          kind: 'fixed' as const,
          id: `way-${i}-line`,
          questionId,
          points: 1,
          ...(i === 1 ? { required: true } : {}),
        }));
        return { ...design, parts: design.parts.slice(0, 1).map((part) => ({ ...part, lines })) };
      },
      { further: { onwardOnly: true } },
    );
    const page = await begin(sittingId);
    // One touch on a stroke of the ruler asks.
    await page.locator('header button[title^="Question 4"]').click();
    await shows(page, 'Question 2 has to be answered before you go on.');
    await press(page, 'Go on: no way back');
    await shows(page, 'Go on to question 2?');
    expect(await page.$eval('main', (main) => main.textContent)).not.toContain('has to be answered before you go on');
    await shows(page, 'Still empty: question 1.');
    await press(page, 'Stay here');
    await pick(page, 1);
    await shows(page, 'Saved ');
    // From a choice by Enter to the button, which goes on by Enter.
    await page.focus('main input:checked');
    await page.keyboard.press('Enter');
    expect(await page.evaluate(() => document.activeElement?.textContent)).toBe('Go on: no way back');
    await page.keyboard.press('Enter');
    await shows(page, 'Question 2 of 4');
    await press(page, 'Go on: no way back');
    await shows(page, 'Question 2 has to be answered before you go on.');
    await press(page, 'I am finished: to the hand-in');
    await shows(page, 'Question 2 has to be answered before you hand in.');
    await press(page, 'Back to the questions');
    await pick(page, 2);
    await shows(page, 'Saved ');
    await page.locator('header button[title^="Question 4"]').click();
    await shows(page, 'You cannot go back to questions 2 and 3 afterwards.');
    await press(page, 'Leave them for good');
    await shows(page, 'Question 4 of 4');
    await page.reload();
    await shows(page, 'Question 4 of 4');
    await press(page, 'To the hand-in');
    await press(page, 'Hand in');
    await shows(page, '2 of 4 questions answered.');
  });
});

describe('voided, and opened again', () => {
  it('the page says so as it happens, and leads on again by itself; the time it took is given back', async () => {
    const sittingId = giveSitting(house.db, examId(), 'Voided', { timeLimitMinutes: 30 });
    const page = await begin(sittingId);
    await pick(page, 1);
    await shows(page, 'Saved ');
    const watch = await room(sittingId);
    await watch.locator('::-p-xpath(//td//button[starts-with(normalize-space(.), "Zoë")])').click();
    await press(watch, 'Void');
    await fill(watch, 'Reason', 'the wrong room');
    await press(watch, 'Void it');
    await shows(page, 'Your instructor has taken this attempt out: it does not count.');
    await shows(page, '1 of 10 questions answered. Your answers are kept.');
    await clocks.pass(5 * minute);
    await press(watch, 'Take the voiding back');
    await shows(page, 'Your attempt is running');
    await press(page, 'Go on');
    await page.waitForSelector('input[type=radio]:checked');
    const added = attemptOf(sittingId)?.added ?? 0;
    expect(added).toBeGreaterThanOrEqual(5 * minute);
    expect(added).toBeLessThan(7 * minute);
    // Handed in, and opened again: the receipt hears it, and a message goes out.
    await press(page, 'I am finished: to the hand-in');
    await press(page, 'Hand in');
    await shows(page, 'You handed it in.');
    await press(watch, 'Open again');
    await fill(watch, 'Reason', 'too early');
    await decided(watch, 'Open again');
    await shows(page, 'Opened again');
    await press(page, 'Go on');
    await page.waitForSelector('input[type=radio]:checked');
    const told = house.db
      .select()
      .from(outbox)
      .all()
      .map((one) => one.subject);
    expect(told).toContain('Voided is open for you again');
    await page.goto(`${house.served.origin}/my`);
    await shows(page, 'Opened again');
  });
});

describe('the time left is spoken', () => {
  it('at ten, five and one minutes, though the page hears of its deadline again and again, and more of it as it comes', async () => {
    const sittingId = giveSitting(house.db, examId(), 'Spoken', { timeLimitMinutes: 30 });
    const page = await begin(sittingId);
    await page.evaluate(() => {
      const heard: string[] = [];
      Object.assign(globalThis, { heard });
      const live = document.querySelector('[aria-live=assertive]') as Element;
      new MutationObserver(() => live.textContent && heard.push(live.textContent)).observe(live, {
        childList: true,
        characterData: true,
        subtree: true,
      });
    });
    const heard = () => page.evaluate(() => (globalThis as unknown as { heard: string[] }).heard);
    const start = attemptOf(sittingId)?.startedAt ?? 0;
    const left = (minutes: number) => start + 30 * minute - minutes * minute - Date.now();
    for (const minutes of [10, 5, 1]) {
      await clocks.pass(left(minutes) - clocks.at + second);
      // A sign of life, with the deadline anew, in the same moment.
      await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')));
      await expect.poll(async () => (await heard()).at(-1)).toMatch(new RegExp(`^${minutes} minutes? left$`));
    }
    const watch = await room(sittingId);
    await watch.locator('::-p-xpath(//td//button[starts-with(normalize-space(.), "Zoë")])').click();
    await watch.locator('::-p-xpath(//section[@aria-label="More time"]//button)').click();
    await expect.poll(async () => (await heard()).at(-1)).toMatch(/^5 min more: /);
    expect((await heard()).filter((one) => one.startsWith('10 minutes'))).toHaveLength(1);
  });
});
