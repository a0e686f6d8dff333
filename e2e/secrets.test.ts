import { eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { localFromInstant } from '../src/core/base/localTime';
import { day, hour } from '../src/core/base/time';
import { sitting, user } from '../src/db/schema';
import { saveSitting } from '../src/server/sitting/saveRules';
import { createSitting } from '../src/server/sitting/sittings';
import { scheduleAcknowledged } from '../src/server/testing/scheduleAcknowledged';
import { must } from '../src/server/testing/school';
import { openHouse, press, shows, teacher } from './house';
import { record } from './recorder';
import { secretExam } from './secretExam';

const house = openHouse();

/** Gives the course an exam of three questions whose keys hold words found nowhere else. */
function giveSecretExam(): void {
  const { db } = house;
  const person = db.select().from(user).where(eq(user.email, teacher)).get();
  const context = { db, actor: { userId: person?.id ?? '', name: 'Teacher' }, now: Date.now() };
  const courseId = db.select().from(sitting).get()?.courseId ?? '';
  const examId = secretExam(context, courseId);
  const { sittingId } = must(createSitting(context, courseId, { examId }));
  const local = (at: number) => localFromInstant(at, 'Europe/Oslo');
  must(
    saveSitting(context, courseId, sittingId, {
      title: 'Secrets',
      opens: local(Date.now() - hour),
      closes: local(Date.now() + 2 * day),
      lastStart: '',
      due: '',
      timeLimitMinutes: 30,
      attemptsAllowed: 1,
      attemptCounts: 'best',
      who: { kind: 'course' },
      markerIds: [],
    }),
  );
  must(scheduleAcknowledged(context, courseId, sittingId));
}

it('no byte of a taking session, from My exams to the receipt and My results, tells anything of a key', async () => {
  giveSecretExam();
  const page = await house.page('keoni.kahananui@ternpoint.example');
  const recorder = await record(house.served.origin);
  await page.goto(`${recorder.origin}/my`);
  await page.locator('::-p-xpath(//li[contains(., "Secrets")]//a[contains(., "Rules and start")])').click();
  await press(page, 'Start now: 30 min');
  await page.waitForSelector('input[type=radio]:not(:disabled)');
  await page.locator('main li:nth-child(1) label').click();
  await press(page, 'Next');
  await page.locator('main input').fill('12');
  await press(page, 'Next');
  await page.locator('main textarea').fill('For a good reason.');
  await shows(page, 'Saved ');
  await page.reload();
  await page.waitForSelector('main textarea');
  await press(page, 'To the hand-in');
  await press(page, 'Hand in');
  await shows(page, 'You handed it in.');
  await page.goto(`${recorder.origin}/my/results`);
  await shows(page, 'My results');
  await recorder.stop();
  const everything = recorder.everything();
  expect(everything).toContain('Pick one');
  expect(everything.length).toBeGreaterThan(100_000);
  for (const secret of [
    'SECRET',
    // With its point, which no id made at random holds.
    '86421.',
    '0.4375',
    'PRIVATENAME',
    'keyofchoice',
    'modelAnswer',
    '"right":',
    '"tolerance"',
    '"accepted"',
  ]) {
    const at = everything.indexOf(secret);
    expect(at < 0 ? null : `${secret}: …${everything.slice(Math.max(0, at - 120), at + 60)}`).toBeNull();
  }
});
