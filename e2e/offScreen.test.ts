import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import type { Page } from 'puppeteer-core';
import { describe, expect, it, onTestFinished } from 'vitest';
import type { AnswerSheetOrder } from '../src/core/answerSheet/sheetOrder';
import type { RowTruth } from '../src/core/answerSheet/standIn';
import { attempt, exam, keySheet } from '../src/db/schema';
import { fillSheets } from '../src/print/fillSheets';
import { readPdf } from '../src/print/testing/readPdf';
import { typesetPdf } from '../src/print/typesetPdf';
import { installationSigns } from '../src/server/answerSheet/sheetNames';
import { phone } from './browser';
import { courseIdOf, giveSitting } from './giveExam';
import { fill, openHouse, press, shows, teacher } from './house';

const house = openHouse();
const student = 'keoni.kahananui@ternpoint.example';

/** Begins an off-screen exam and sets items 1 to so many, as an instructor would. */
async function begin(title: string, items: number): Promise<{ page: Page; examId: string }> {
  const page = await house.page(teacher);
  await page.goto(`${house.served.origin}/c/${courseIdOf(house.db)}/exams`);
  await fill(page, 'Title of a new exam', title);
  await press(page, 'Off-screen');
  await shows(page, 'No items yet');
  await fill(page, 'Last item', String(items));
  await press(page, 'Set the items');
  await page.waitForSelector(`[data-items] li[aria-setsize="${items}"]`);
  return { page, examId: house.db.select().from(exam).where(eq(exam.title, title)).get()?.id ?? '' };
}

async function giveKey(page: Page, key: string): Promise<void> {
  await page.locator('::-p-xpath(//label[contains(., "Give the key")])').click();
  await page.locator('textarea[aria-label="Right answers"]').click();
  await page.keyboard.sendCharacter(key);
  await shows(page, 'Read as');
  await page.locator('::-p-xpath(//button[contains(., "Give the key")])').click();
}

/** The right answers that are stored, by item. */
const storedKey = (examId: string) =>
  (
    house.db.$client
      .prepare(
        `select q.short_name as label, v.content as content from question q join question_version v on v.id = q.current_version_id
       join bank b on b.id = q.bank_id where b.exam_id = ? and q.retired_at is null`,
      )
      .all(examId) as { label: string; content: string }[]
  ).map(({ label, content }) => {
    const { choices = [] } = JSON.parse(content) as { choices?: { right: boolean }[] };
    return [label.replace('Item ', ''), 'ABCDEFGH'[choices.findIndex((one) => one.right)] ?? ''] as const;
  });

describe('an off-screen exam', () => {
  it('is keyed by letters typed on the rows; what is wrong in a pasted key is told and changes nothing', async () => {
    const { page, examId } = await begin('Keyed by letters', 6);
    await giveKey(page, 'ABX');
    await shows(page, 'Item 3: “X” is none of its choices, A to D.');
    expect(storedKey(examId).every(([, key]) => key === '')).toBe(true);
    await page.focus('[data-answer="1"] [tabindex="0"]');
    await page.keyboard.type('bcad');
    await shows(page, '2 items have no key yet: 5, 6.');
    expect(Object.fromEntries(storedKey(examId))).toEqual({ 1: 'B', 2: 'C', 3: 'A', 4: 'D', 5: '', 6: '' });
    await page.reload();
    await shows(page, 'to the first without one');
    expect(await page.$eval('[data-answer="4"] [aria-checked="true"]', (one) => one.textContent)).toBe('D');
  });

  it('gets its key from a filled sheet, which is looked at before it is given', async () => {
    const { page, examId } = await begin('Keyed on a sheet', 12);
    await page.locator('::-p-xpath(//label[contains(., "Give the key")])').click();
    await page.locator('::-p-xpath(//summary[contains(., "Read it from a filled sheet")])').click();
    await press(page, 'Make a sheet for the key');
    await shows(page, 'Open the sheet for the key');
    const here = `${house.served.origin}/c/${courseIdOf(house.db)}/exams/${examId}`;
    const printed = await fetch(`${here}/key-sheet`, { headers: { cookie: await house.cookiesOf(teacher) } });
    expect((await readPdf(new Uint8Array(await printed.arrayBuffer()))).pages[0]).toContain('Keyed on a sheet');
    // Somebody fills it in, and copies it.
    const sheet = house.db.select().from(keySheet).where(eq(keySheet.examId, examId)).get();
    if (!sheet) return expect.fail('no sheet was made');
    const order: AnswerSheetOrder = {
      installation: installationSigns(house.db),
      title: 'Keyed on a sheet',
      layouts: { [sheet.id]: sheet.plan },
      sheets: [{ layout: sheet.id, copy: 1, name: 'The key', note: '' }],
      bothSides: false,
    };
    const files = unzipSync(await fillSheets({ order, grade: 'copier', seed: 'the key', numbers: [] }));
    const [truth] = JSON.parse(new TextDecoder().decode(files['truth.json'])) as [{ rows: RowTruth[] }];
    const told = truth.rows.filter((row) => row.clear && row.filled.length === 1);
    expect(told.length).toBeGreaterThan(6);
    const folder = mkdtempSync(join(tmpdir(), 'wuzzen-key-'));
    onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
    writeFileSync(join(folder, 'key.jpg'), files['001.jpg'] as Uint8Array);
    const input = await page.waitForSelector('::-p-xpath(//label[contains(., "Filled sheet to read")]//input)');
    await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(join(folder, 'key.jpg'));
    await shows(page, `${told.length} right answers were read`);
    expect(storedKey(examId).every(([, key]) => key === '')).toBe(true);
    await page.locator('::-p-xpath(//button[contains(., "Give the key")])').click();
    await expect.poll(() => storedKey(examId).filter(([, key]) => key !== '').length).toBe(told.length);
    const stored = Object.fromEntries(storedKey(examId));
    for (const { row, filled } of told) expect([row, stored[row + 1]]).toEqual([row, filled[0]]);
    await press(page, 'Give as a sitting');
    await shows(page, 'It never closes');
  });

  it('holds 2,000 items with their paper, is taken on a phone from an answer sheet, and is scored by its key', async () => {
    const { page, examId } = await begin('Two thousand items', 2000);
    await giveKey(page, 'ABCD'.repeat(500));
    await shows(page, 'Every item has its key or is marked by hand: the exam can be given.');
    const folder = mkdtempSync(join(tmpdir(), 'wuzzen-paper-'));
    onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
    const file = join(folder, 'The paper.pdf');
    writeFileSync(file, typesetPdf([{ title: 'The paper', foot: '', c: [] }], {}));
    const input = await page.$('input[type=file]');
    await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
    await press(page, 'Students see it while they answer');
    await page.waitForFunction(() => document.querySelector('[role=status]')?.textContent?.match(/· saved/));

    const sittingId = giveSitting(house.db, examId, 'Two thousand items');
    const taking = await house.page(student, phone);
    await taking.goto(`${house.served.origin}/my/exams/${sittingId}`);
    await press(taking, 'Start now: 2 h');
    await shows(taking, 'Item 50');
    expect(await taking.$$eval('ol[aria-label="Items"] > li', (rows) => rows.length)).toBe(50);
    expect(await taking.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
    const paper = await taking.$eval('main a', (link) => (link as HTMLAnchorElement).href);
    expect(await taking.evaluate(async (address) => (await fetch(address)).headers.get('content-type'), paper)).toBe(
      'application/pdf',
    );
    const answer = (row: number, choice: number) =>
      taking.locator(`::-p-xpath((//ol[@aria-label="Items"]/li)[${row}]//label[${choice}])`).click();
    await answer(1, 1);
    await answer(2, 2);
    await answer(3, 4);
    await taking.select('label select', '39');
    await shows(taking, 'Item 2000');
    await answer(50, 4);
    await taking.waitForFunction(() => document.querySelector('[role=status]')?.textContent?.match(/^(Saved|Every)/));
    await press(taking, 'To the hand-in');
    await shows(taking, '4 of 2000 questions are answered.');
    await press(taking, 'Hand in');
    await taking.waitForFunction(() => location.pathname.startsWith('/my/receipts/'));
    const own = house.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).get();
    const earned = house.db.$client
      .prepare(
        'select sum(m.points) as points, count(*) as marks from mark m join paper_slot s on s.id = m.slot_id where s.attempt_id = ?',
      )
      .get(own?.id) as { points: number; marks: number };
    expect(earned).toEqual({ points: 3, marks: 2000 });
    expect((await taking.evaluate(async (address) => (await fetch(address)).status, paper)) as number).toBe(404);

    await page.goto(`${house.served.origin}/c/${courseIdOf(house.db)}/sittings/${sittingId}/results`);
    await shows(page, '4 of 2000 answered, 3 right');
    await shows(page, 'Look at the paper here');
    await page.goto(`${house.served.origin}/c/${courseIdOf(house.db)}/banks`);
    await page.waitForSelector('h1');
    expect(await page.evaluate(() => document.body?.textContent?.includes('Two thousand items'))).toBe(false);
  });
});
