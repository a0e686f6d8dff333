import { and, eq } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { describe, expect, it } from 'vitest';
import type { ExamDesign } from '../src/core/exam/design';
import {
  anonymousAnswer,
  attempt,
  exam,
  examRevision,
  membership,
  paperSlot,
  question,
  response,
} from '../src/db/schema';
import { readPdf } from '../src/print/testing/readPdf';
import { phone } from './browser';
import { courseIdOf, fixedLines, giveExam } from './giveExam';
import { openHouse, press, shows, teacher } from './house';

const house = openHouse();
const students = ['keoni.kahananui', 'aisha.benhaddou', 'zoe.papathanou'].map((name) => `${name}@ternpoint.example`);

/** An exam of two parts, all on one page: single choices in the first, whatever the change makes of it. */
const chooseNames = ['Crossing at night', 'Head on', 'Sailing, same tack'];
const twoParts =
  (change: (parts: ExamDesign['parts']) => ExamDesign['parts'], more: Partial<ExamDesign> = {}) =>
  (design: ExamDesign): ExamDesign => {
    const lines = fixedLines(house.db, [...chooseNames, 'Isophase']);
    const [first] = design.parts as [ExamDesign['parts'][number]];
    return {
      ...design,
      ...more,
      parts: change([
        { ...first, title: 'Any two', lines: lines.slice(0, 3) },
        { ...first, id: 'the-rest-of-it', title: 'The rest', lines: lines.slice(3) },
      ]),
    };
  };

async function begin(email: string, sittingId: string, size?: { width: number; height: number }): Promise<Page> {
  const page = await house.page(email, size);
  await page.goto(`${house.served.origin}/my/exams/${sittingId}`);
  await press(page, 'Start now: 2 h');
  await page.waitForSelector('article');
  return page;
}
/** Presses the n-th choice of the n-th question of the page, from 1. */
const pick = (page: Page, article: number, choice: number) =>
  page.locator(`::-p-xpath((//article)[${article}]//li[${choice}]//label)`).click();
const saved = (page: Page) =>
  page.waitForFunction(() => document.querySelector('[role=status]')?.textContent?.match(/^(Saved|Every)/));

describe('the rules of an exam on the taking page', () => {
  it('a choose-part takes as many as it asks for, and what is required has to be answered before the hand-in', async () => {
    const { sittingId } = giveExam(
      house.db,
      'Choose and required',
      twoParts(
        (parts) =>
          parts.map((part, p) =>
            p === 0
              ? { ...part, choose: { count: 2, extra: 'refused' as const } }
              : { ...part, lines: part.lines.map((line) => ({ ...line, required: true })) },
          ),
        { pages: 'all', labels: '1' },
      ),
    );
    const page = await begin(students[0] ?? '', sittingId, phone);
    await shows(page, 'Answer any 2 of these 3 questions: 0 answered so far.');
    expect(await page.$$eval('article', (all) => all.length)).toBe(4);
    expect(await page.$eval('article li', (row) => row.textContent?.startsWith('1'))).toBe(true);
    await pick(page, 1, 1);
    await pick(page, 2, 1);
    await shows(page, 'You have answered 2 of 2 in this part. Clear one to answer this one instead.');
    expect(await page.$$eval('article:nth-of-type(1) input', (all) => all.length)).toBeGreaterThan(0);
    const third = '::-p-xpath((//article)[3]//fieldset)';
    expect(await page.$eval(third, (field) => (field as HTMLFieldSetElement).disabled)).toBe(true);
    await page.$eval('::-p-xpath((//article)[1]//button[contains(., "Clear my choice")])', (button) =>
      (button as HTMLButtonElement).click(),
    );
    await page.waitForFunction(() => document.body?.textContent?.includes('1 answered so far'));
    await pick(page, 3, 2);
    await shows(page, '2 answered so far');
    await saved(page);
    await press(page, 'To the hand-in');
    await shows(page, 'Any two: 2 answered, 2 asked for.');
    await press(page, 'Hand in');
    await shows(page, 'Question 4 has to be answered before you hand in.');
    await page.locator('::-p-aria([name="Go to question 4"])').click();
    await page.waitForSelector('article');
    await pick(page, 4, 1);
    await saved(page);
    await press(page, 'To the hand-in');
    await press(page, 'Hand in');
    await page.waitForFunction(() => location.pathname.startsWith('/my/receipts/'));
    await shows(page, '3 of 4 questions answered');
    const own = house.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).get();
    const values = house.db
      .select({ value: response.value })
      .from(response)
      .where(eq(response.attemptId, own?.id ?? ''))
      .all();
    expect(values.filter((one) => one.value !== null)).toHaveLength(3);
  });

  it('a question with a time of its own is sent only when it is opened, and its time goes on through a reload', async () => {
    const { sittingId } = giveExam(
      house.db,
      'Own time',
      twoParts((parts) =>
        parts.map((part, p) =>
          p === 0 ? { ...part, lines: part.lines.map((line) => ({ ...line, minutes: 3 })) } : part,
        ),
      ),
    );
    const page = await begin(students[1] ?? '', sittingId);
    await shows(page, 'This question has a time of its own: 3 min.');
    expect(await page.$('article input')).toBeNull();
    await press(page, 'Open the question: 3 min');
    await page.waitForSelector('article input[type=radio]');
    await shows(page, 'left for this question');
    const [slot] = house.db
      .select()
      .from(paperSlot)
      .all()
      .filter((one) => one.openedAt !== null);
    await page.reload();
    await page.waitForSelector('article input[type=radio]');
    expect(
      house.db
        .select()
        .from(paperSlot)
        .where(eq(paperSlot.id, slot?.id ?? ''))
        .get()?.openedAt,
    ).toBe(slot?.openedAt);
    await press(page, 'Next');
    await shows(page, 'Question 2 of 4');
    await shows(page, 'This question has a time of its own');
  });

  it('anonymous answers stay in the browser, survive a reload, and enter the database without their person', async () => {
    const { sittingId } = giveExam(
      house.db,
      'How was it?',
      twoParts((parts) => parts, { purpose: { scored: false, counts: 'no', anonymous: true } }),
    );
    const page = await house.page(students[2] ?? '');
    await page.goto(`${house.served.origin}/my/exams/${sittingId}`);
    await shows(page, 'Your answers are anonymous');
    await press(page, 'Start now: 2 h');
    await page.waitForSelector('article');
    await shows(page, 'Kept in this browser only, until you hand in');
    await pick(page, 1, 2);
    await page.waitForSelector('article input:checked');
    await page.reload();
    await page.waitForSelector('article input:checked');
    expect(house.db.select().from(anonymousAnswer).all()).toEqual([]);
    const own = house.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).get();
    expect(
      house.db
        .select()
        .from(response)
        .where(eq(response.attemptId, own?.id ?? ''))
        .all(),
    ).toEqual([]);
    await page.locator('::-p-text(I am finished)').click();
    await press(page, 'Hand in');
    await shows(page, 'stored without your name');
    const answers = house.db.select().from(anonymousAnswer).all();
    expect(answers.map((row) => row.value !== null).sort()).toEqual([false, false, false, true]);
    expect(
      house.db
        .select()
        .from(paperSlot)
        .where(eq(paperSlot.attemptId, own?.id ?? ''))
        .all(),
    ).toEqual([]);
    expect(
      await page.evaluate(() => Object.keys(localStorage).filter((key) => key.startsWith('wuzzen-answers'))),
    ).toEqual([]);
    const instructor = await house.page(teacher);
    await instructor.goto(`${house.served.origin}/c/${courseIdOf(house.db)}/sittings/${sittingId}/answers`);
    await shows(
      instructor,
      '1 has handed in so far. The answers are shown once it is over for everyone, and from five on',
    );
  });
});

describe('the plan', () => {
  const open = async (title: string) => {
    const page = await house.page(teacher);
    const id = house.db.select().from(exam).where(eq(exam.title, title)).get()?.id ?? '';
    await page.goto(`${house.served.origin}/c/${courseIdOf(house.db)}/exams/${id}`);
    return { page, id };
  };
  const planSaved = (page: Page) =>
    page.waitForFunction(() => document.querySelector('[role=status]')?.textContent?.match(/· saved/));
  const designOf = (id: string) => {
    const row = house.db.select().from(exam).where(eq(exam.id, id)).get();
    return house.db
      .select()
      .from(examRevision)
      .where(eq(examRevision.id, row?.currentRevisionId ?? ''))
      .get()?.design;
  };

  it('lines are dragged within their part and into another, and moved by keyboard on the handle', async () => {
    const { page, id } = await open('Final theory exam');
    // High enough for both parts: near the end of the window a page scrolls while something is dragged there.
    await page.setViewport({ width: 1280, height: 1200 });
    // The questions are looked through once the page stands: what that says moves the lines.
    await shows(page, 'allow shuffling');
    const begun = designOf(id)?.parts.map((part) => part.lines.map((line) => line.id)) ?? [];
    const [a1 = '', a2 = ''] = begun[0] ?? [];
    const middle = async (selector: string) => {
      const box = await (await page.waitForSelector(selector))?.boundingBox();
      if (!box) throw new Error(`${selector} is not on the page`);
      return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    };
    const drag = async (name: string, target: string, over: string) => {
      const from = await middle(`::-p-aria([name="Drag ${name}"])`);
      const to = await middle(target);
      await page.mouse.move(from.x, from.y);
      await page.mouse.down();
      await page.mouse.move(from.x, from.y + 10, { steps: 3 });
      await page.mouse.move(from.x, to.y - 5, { steps: 12 });
      await page.waitForFunction((said) => document.body?.textContent?.includes(said), {}, over);
      await page.mouse.up();
    };
    await drag('line 1.1', `#line-${begun[1]?.[1]}`, 'line 1.1 over line 2.2.');
    await page.waitForFunction((line) => document.querySelector(`#line-${line}`)?.textContent?.includes('2.'), {}, a1);
    await planSaved(page);
    expect(
      designOf(id)
        ?.parts.slice(0, 2)
        .map((part) => part.lines.map((line) => line.id)),
    ).toEqual([[a2], [begun[1]?.[0], a1, ...(begun[1]?.slice(1) ?? [])]]);
    await page.focus('::-p-aria([name="Drag line 2.2"])');
    await page.keyboard.press('Space');
    await page.waitForFunction(() => document.body?.textContent?.includes('line 2.2 over line 2.2.'));
    await page.keyboard.press('ArrowDown');
    await page.waitForFunction(() => document.body?.textContent?.includes('line 2.2 over line 2.3.'));
    await page.keyboard.press('Space');
    await page.waitForFunction((line) => document.querySelector(`#line-${line}`)?.textContent?.includes('2.3'), {}, a1);
    await planSaved(page);
    expect(
      designOf(id)
        ?.parts[1]?.lines.map((line) => line.id)
        .indexOf(a1),
    ).toBe(2);
  });

  it('a question written from the plan stands on the exam and is kept in the bank', async () => {
    const { page, id } = await open('Weekly check: heights of tide');
    const before = designOf(id)?.parts[0]?.lines.length ?? 0;
    await page.locator('::-p-text(Write a new question)').click();
    await shows(page, 'A new question for');
    await page.locator('::-p-xpath(//label[.="Type"]/following-sibling::select)').fill('true-false');
    await shows(page, 'True/false: the statement');
    const stem = await page.waitForSelector('[contenteditable=true]');
    await stem?.click();
    await stem?.type('A falling glass means a rising wind.');
    await page.locator('::-p-xpath(//label[normalize-space(.)="True"]/input)').click();
    await page.locator('::-p-xpath(//button[normalize-space(.)="Save"])').click();
    await page.waitForFunction((exam) => location.pathname.endsWith(exam), {}, id);
    await shows(page, 'A falling glass means a rising wind.');
    const line = designOf(id)?.parts[0]?.lines.at(-1);
    expect(designOf(id)?.parts[0]?.lines.length).toBe(before + 1);
    expect(
      line?.kind === 'fixed' && house.db.select().from(question).where(eq(question.id, line.questionId)).get()?.type,
    ).toBe('true-false');
  });
});

it('an exam is tried on the taking page: right answers earn full marks, and nothing is stored', async () => {
  const page = await house.page(teacher);
  const courseId = courseIdOf(house.db);
  const id = house.db.select().from(exam).where(eq(exam.title, 'Steering-rules quiz')).get()?.id ?? '';
  const counted = () => [attempt, paperSlot, response].map((table) => house.db.select().from(table).all().length);
  const before = counted();
  await page.goto(`${house.served.origin}/trial/${courseId}/${id}`);
  await page.waitForSelector('article');
  await press(page, 'Fill in right answers');
  await shows(page, 'Filled in.');
  await page.locator('::-p-text(I am finished)').click();
  await press(page, 'Hand in');
  await shows(page, 'Every key on this paper earns full marks.');
  const said = await page.$eval('main p', (line) => line.textContent ?? '');
  const [, earned, possible] = /(\d+) of (\d+) points/.exec(said) ?? [];
  expect(Number(earned)).toBeGreaterThan(0);
  expect(earned).toBe(possible);
  expect(counted()).toEqual(before);
});

it('papers print to PDF: a sample without and with its key, and those of ten students with progress', async () => {
  const page = await house.page(teacher);
  const base = `${house.served.origin}/c/${courseIdOf(house.db)}`;
  const studentIds = house.db
    .select({ id: membership.userId })
    .from(membership)
    .where(and(eq(membership.courseId, courseIdOf(house.db)), eq(membership.role, 'student')))
    .limit(10)
    .all()
    .map((one) => one.id);
  const { examId, sittingId } = giveExam(
    house.db,
    'To be printed',
    twoParts((parts) => parts),
    { who: { kind: 'some', sectionIds: [], studentIds } },
  );
  await page.goto(`${base}/exams/${examId}/sample`);
  const cookie = await house.cookiesOf(teacher);
  const fetched = async (address: string) => {
    const answer = await fetch(address, { headers: { cookie } });
    expect(answer.headers.get('content-type')).toBe('application/pdf');
    const bytes = new Uint8Array(await answer.arrayBuffer());
    const { pages, standard } = await readPdf(bytes);
    expect(standard).toBe('UA-1');
    return { length: bytes.length, pages: pages.length };
  };
  const plain = await fetched(`${base}/exams/${examId}/sample/pdf?paper=1`);
  const withKey = await fetched(`${base}/exams/${examId}/sample/pdf?paper=1&key=yes`);
  expect(withKey.length).toBeGreaterThan(plain.length);
  await page.goto(`${base}/sittings/${sittingId}/print`);
  await page.locator('::-p-xpath(//button[starts-with(., "Print ")])').click();
  await page.waitForSelector('::-p-xpath(//a[contains(., "Open the")])', { timeout: 90_000 });
  const all = await fetched(`${base}/sittings/${sittingId}/print/pdf`);
  expect(all.pages).toBe(studentIds.length * plain.pages);
  const student = await house.cookiesOf(students[0] ?? '');
  const foreign = await fetch(`${base}/sittings/${sittingId}/print/pdf`, { headers: { cookie: student } });
  expect([403, 404]).toContain(foreign.status);
}, 180_000);
