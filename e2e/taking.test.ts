import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { attempt, response, sitting, user } from '../src/db/schema';
import { phone } from './browser';
import { openHouse, press, shows } from './house';
import { moveClock, post } from './serve';

const house = openHouse();
const quiz = () => house.db.select().from(sitting).where(eq(sitting.title, 'Steering-rules quiz')).get()?.id ?? '';

/** Students who have not begun the quiz. */
function fresh(n: number): string {
  const begun = new Set(
    house.db
      .select({ userId: attempt.userId })
      .from(attempt)
      .where(eq(attempt.sittingId, quiz()))
      .all()
      .map((row) => row.userId),
  );
  const students = house.db
    .select()
    .from(user)
    .all()
    .filter((row) => row.email?.endsWith('@ternpoint.example') && !begun.has(row.id));
  const invited = new Set(
    house.db.$client
      .prepare("select user_id from membership where role = 'student' and removed_at is null")
      .pluck()
      .all(),
  );
  return students.filter((row) => invited.has(row.id))[n]?.email ?? '';
}

const savedAnswers = (attemptId: string) =>
  house.db.select().from(response).where(eq(response.attemptId, attemptId)).all();
const attemptOf = (email: string) =>
  house.db
    .select({ id: attempt.id, state: attempt.state, endedBy: attempt.endedBy })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(and(eq(attempt.sittingId, quiz()), eq(user.email, email)))
    .get();

async function begin(email: string, size?: { width: number; height: number }) {
  const page = await house.page(email, size);
  await page.goto(`${house.served.origin}/my`);
  await press(page, 'Rules and start of Steering-rules quiz');
  await shows(page, 'If you start now you have 40 min');
  await press(page, 'Start now: 40 min');
  await page.waitForSelector('input[type=radio]:not(:disabled)');
  return page;
}

const pick = (page: Awaited<ReturnType<typeof begin>>, n: number) =>
  page.locator(`main li:nth-child(${n}) label`).click();

describe('a student takes an exam', () => {
  it('on a phone: answers are saved as they are given, a reload goes on, the hand-in says what is empty', async () => {
    const email = fresh(0);
    const page = await begin(email, phone);
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
    await pick(page, 2);
    await shows(page, 'Saved ');
    const attemptId = attemptOf(email)?.id ?? '';
    expect(savedAnswers(attemptId)).toHaveLength(1);
    await press(page, 'Next');
    await shows(page, 'Question 2 of 10');
    await press(page, 'Come back to this later');
    await page.waitForFunction(() => document.querySelectorAll('[title*="to come back to"]').length === 1);
    await page.waitForFunction(() => document.querySelector('[role=status]')?.textContent?.startsWith('Saved'));

    await page.reload();
    await shows(page, 'Question 2 of 10');
    expect(
      await page.$$eval('header button[title^="Question"]', (signs) =>
        signs.map((sign) => sign.getAttribute('title')).slice(0, 3),
      ),
    ).toEqual(['Question 1: answered', 'Question 2: empty, to come back to, here now', 'Question 3: empty']);

    await press(page, 'I am finished: to the hand-in');
    await shows(page, '1 of 10 questions are answered.');
    await press(page, 'Go to question 5');
    await shows(page, 'Question 5 of 10');
    await pick(page, 1);
    await press(page, 'I am finished: to the hand-in');
    await shows(page, '2 of 10 questions are answered.');
    await press(page, 'Hand in');
    await shows(page, 'You handed it in.');
    await shows(page, '2 of 10 questions answered');
    expect(attemptOf(email)).toMatchObject({ state: 'handed-in', endedBy: 'student' });
    expect(savedAnswers(attemptId).filter((row) => row.value !== null)).toHaveLength(2);
  });

  it('by keyboard alone', async () => {
    const email = fresh(0);
    const page = await begin(email);
    await page.focus('input[type=radio]');
    await page.keyboard.press('Space');
    await page.keyboard.press('ArrowDown');
    await page.waitForFunction(() => document.querySelector('[role=status]')?.textContent?.startsWith('Saved'));
    await page.focus('header button[aria-current=true]');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await shows(page, 'Question 3 of 10');
    expect(await page.evaluate(() => document.activeElement?.textContent)).toBe('Question 3 of 10');
    const [answer] = savedAnswers(attemptOf(email)?.id ?? '');
    expect(answer?.revision).toBeGreaterThanOrEqual(1);
  });

  it('the older of two windows says that it has been superseded and saves nothing', async () => {
    const email = fresh(0);
    const first = await begin(email);
    const attemptId = attemptOf(email)?.id ?? '';
    const second = await house.page(email);
    await second.goto(`${house.served.origin}/take/${attemptId}`);
    await second.waitForSelector('input[type=radio]:not(:disabled)');
    await pick(first, 1);
    await shows(first, 'You have opened this exam in another window');
    expect(savedAnswers(attemptId)).toHaveLength(0);
    await pick(second, 2);
    await shows(second, 'Saved ');
    expect(savedAnswers(attemptId)).toHaveLength(1);
  });

  it('offline, the page never says saved, and what was answered arrives when the connection returns', async () => {
    const email = fresh(0);
    const page = await begin(email);
    const attemptId = attemptOf(email)?.id ?? '';
    await page.setOfflineMode(true);
    await pick(page, 3);
    await shows(page, 'No connection. 1 answer is kept here and will be sent.');
    expect(savedAnswers(attemptId)).toHaveLength(0);
    await page.setOfflineMode(false);
    await shows(page, 'Saved ');
    expect(savedAnswers(attemptId)).toHaveLength(1);
  });

  it('is handed in by the clock without any browser, and the page that was open says so', async () => {
    const email = fresh(0);
    const page = await begin(email);
    await pick(page, 1);
    await shows(page, 'Saved ');
    await page.goto('about:blank');
    await moveClock(house.served.origin, 41 * 60_000);
    await expect
      .poll(() => attemptOf(email), { timeout: 15_000 })
      .toMatchObject({ state: 'handed-in', endedBy: 'clock' });
    await page.goto(`${house.served.origin}/take/${attemptOf(email)?.id}`);
    await shows(page, 'The time was over, and it was handed in by itself.');
    await moveClock(house.served.origin, 0);
  });

  it('double hand-in and late saves over the wire are harmless', async () => {
    const email = fresh(0);
    const cookies = await house.cookiesOf(email);
    const send = (path: string, body: unknown) => post(house.served.origin, path, body, cookies);
    const { attemptId } = (await (await send('/api/attempts/start', { sittingId: quiz() })).json()) as {
      attemptId: string;
    };
    const { epoch, slots } = (await (await send(`/api/attempts/${attemptId}/open`, null)).json()) as {
      epoch: number;
      slots: { slotId: string }[];
    };
    const receipts = await Promise.all(
      [1, 2, 3].map(async () => (await send(`/api/attempts/${attemptId}/hand-in`, null)).json()),
    );
    expect(new Set(receipts.map((receipt) => JSON.stringify(receipt))).size).toBe(1);
    const late = await send(`/api/attempts/${attemptId}/save`, {
      slotId: slots[0]?.slotId,
      epoch,
      sequence: 1,
      value: { picked: 'x' },
    });
    expect(late.status).toBe(410);
    expect(await late.json()).toMatchObject({ problems: [{ message: 'This attempt has ended.' }] });
    expect(savedAnswers(attemptId)).toHaveLength(0);
  });
});
