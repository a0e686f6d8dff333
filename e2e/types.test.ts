import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import type { ElementHandle } from 'puppeteer-core';
import sharp from 'sharp';
import { expect, it } from 'vitest';
import { readResponse } from '../src/core/question/student';
import { attempt, mark, paperSlot, questionVersion, response } from '../src/db/schema';
import { courseIdOf, fixedLines, giveExam, questionNamed } from './giveExam';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();
const student = 'keoni.kahananui@ternpoint.example';
/** A sitting, open now, with one question of each type and a passage, in the order of the names. */
const sittingOf = (names: string[]): string =>
  giveExam(house.db, 'One of each', (design) => ({
    ...design,
    parts: design.parts.map((part) => ({ ...part, lines: fixedLines(house.db, names) })),
  })).sittingId;

it('a question of each type is answered on a narrow phone without a sideways scroll, and every answer arrives', async () => {
  const names = [
    'Crossing at night',
    'Lights of a power vessel',
    'Leeway',
    'Compass error',
    'Radio channel',
    'Transit check',
    'Who keeps clear',
    'Four stages',
    'Brief the crew',
    'Your own plan',
    'Pace of the course',
    'First sail',
    'Towards springs',
  ];
  const sittingId = sittingOf(names);
  const page = await house.page(student, { width: 360, height: 740 });
  await page.goto(`${house.served.origin}/my/exams/${sittingId}`);
  await press(page, 'Start now: 2 h');
  await page.waitForSelector('article');
  const picture = join(tmpdir(), `plan-${process.pid}.png`);
  writeFileSync(
    picture,
    await sharp({ create: { width: 8, height: 8, channels: 3, background: 'white' } })
      .png()
      .toBuffer(),
  );

  const answers: (() => Promise<unknown>)[] = [
    () => page.locator('article li:nth-child(2) label').click(),
    async () => {
      for (const place of [1, 2]) await page.locator(`article li:nth-child(${place}) label`).click();
    },
    () => page.locator('article label').click(),
    () => fill(page, 'Your answer, a few words', 'compass error'),
    () => fill(page, 'Your answer, a number', '16'),
    async () => {
      await fill(page, 'Gap 1, a number', '47');
      await fill(page, 'Gap 2, a number', '4');
      await page.locator('[role=radiogroup] label').click();
    },
    async () => {
      for (const list of await page.$$('article select')) {
        const value = await list.evaluate((one) => (one as HTMLSelectElement).options[1]?.value ?? '');
        await list.select(value);
      }
    },
    // By keyboard: the first item is lifted by its handle and put one place lower.
    async () => {
      await (await page.waitForSelector('button[aria-label^="Drag"]'))?.focus();
      await page.keyboard.press('Space');
      await page.waitForFunction(() => document.querySelector('li.shadow-md') !== null);
      await page.keyboard.press('ArrowDown');
      await shows(page, ' over place 2 of 4.');
      await page.keyboard.press('Space');
      await shows(page, 'Your order:');
    },
    async () => {
      await page.locator('[role=textbox]').click();
      await page.keyboard.type('Clip on ');
      await page.locator('button[aria-label="Bold"]').click();
      await page.keyboard.type('always');
    },
    async () => {
      await fill(page, 'Your answer', 'My plan is attached.');
      const input = (await page.$('input[type=file]')) as ElementHandle<HTMLInputElement>;
      await input.uploadFile(picture);
      await shows(page, `plan-${process.pid}.png`);
    },
    () => page.locator('fieldset label:nth-child(4)').click(),
    async () => {
      await fill(page, 'Day', '12');
      await page.select('fieldset select', '5');
      await fill(page, 'Year', '2001');
    },
    async () => {
      await shows(page, 'For question 13');
      await page.locator('article li:nth-child(1) label').click();
    },
  ];
  for (const [i, answer] of answers.entries()) {
    await shows(page, `Question ${i + 1} of ${names.length}`);
    expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
    await answer();
    if (i < names.length - 1) await press(page, 'Next');
  }
  const stored = () =>
    house.db
      .select({
        position: paperSlot.position,
        value: response.value,
        content: questionVersion.content,
        slotId: paperSlot.id,
      })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .innerJoin(response, eq(response.slotId, paperSlot.id))
      .innerJoin(questionVersion, eq(questionVersion.id, paperSlot.versionId))
      .where(eq(attempt.sittingId, sittingId))
      .orderBy(paperSlot.position)
      .all();
  const answered = () =>
    stored().flatMap((row) => (readResponse(row.content.type, row.value) ? [row.position + 1] : []));
  await expect.poll(answered, { timeout: 10_000 }).toEqual(names.map((_, i) => i + 1));
  const at = (position: number) => stored().find((row) => row.position === position)?.value;
  // What was typed or chosen last is saved with the next save.
  await expect.poll(() => at(8)).toMatchObject({ text: 'Clip on always' });
  await expect.poll(() => JSON.stringify(at(8))).toContain('"type":"bold"');
  await expect
    .poll(() => at(9))
    .toMatchObject({ text: 'My plan is attached.', files: [{ name: `plan-${process.pid}.png` }] });

  await press(page, 'To the hand-in');
  await shows(page, `${names.length} of ${names.length} questions are answered.`);
  await press(page, 'Hand in');
  await shows(page, 'You handed it in.');
  const credit = new Map(
    stored().map((row) => [
      row.position,
      house.db.select().from(mark).where(eq(mark.slotId, row.slotId)).get()?.points,
    ]),
  );
  expect([credit.get(3), credit.get(4), credit.get(8), credit.get(9)]).toEqual([1, 1, undefined, undefined]);
  // Two numbers right of three gaps at least.
  expect(credit.get(5)).toBeGreaterThanOrEqual(2 / 3 - 1e-9);
  expect(credit.get(10)).toBe(1);
});

it('a picture is brought into a question, asked for its text, and shown only to those who may see it', async () => {
  const row = questionNamed(house.db, 'Isophase');
  const page = await house.page(teacher);
  await page.goto(`${house.served.origin}/c/${courseIdOf(house.db)}/banks/${row?.bankId}?all=yes&question=${row?.id}`);
  await page.waitForSelector('[role=textbox]');
  await page.locator('[role=textbox]').click();
  const file = join(tmpdir(), `mark-${process.pid}.png`);
  writeFileSync(
    file,
    await sharp({ create: { width: 30, height: 20, channels: 3, background: 'red' } })
      .png()
      .toBuffer(),
  );
  const input = (await page.$('input[type=file]')) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(file);
  await page.waitForSelector('[role=textbox] img');
  await fill(page, 'What it shows, for those who cannot see or hear it', 'a red mark');
  await press(page, 'Save');
  await shows(page, 'Saved');
  const stem = () =>
    JSON.stringify(
      house.db
        .select()
        .from(questionVersion)
        .where(eq(questionVersion.id, questionNamed(house.db, 'Isophase')?.currentVersionId ?? ''))
        .get()?.content.stem,
    );
  await expect.poll(stem).toContain('"alt":"a red mark"');
  const hash = /[0-9a-f]{64}/.exec(stem())?.[0];
  const statusAs = async (who: string | null) => {
    const other = await house.page(who);
    const answer = await other.goto(`${house.served.origin}/media/${hash}`);
    return [answer?.status(), answer?.headers()['x-content-type-options']];
  };
  expect(await statusAs(teacher)).toEqual([200, 'nosniff']);
  expect((await statusAs(student))[0]).toBe(404);
  expect((await statusAs(null))[0]).toBe(404);
});
