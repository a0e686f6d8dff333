import { and, desc, eq, gt } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { afterAll, expect, it } from 'vitest';
import { hour, minute } from '../src/core/base/time';
import {
  arrangement,
  attempt,
  exam,
  examRevision,
  gradeEntry,
  mark,
  outbox,
  paperSlot,
  publication,
  question,
  questionVersion,
  sitting,
} from '../src/db/schema';
import { openHouse, shows, teacher } from './house';
import { Steps } from './steps';

const house = openHouse();
const course = () => `${house.served.origin}/c/${house.db.select().from(sitting).get()?.courseId}`;
const bank = () =>
  `${course()}/banks/${house.db.select().from(question).where(eq(question.shortName, 'Isophase')).get()?.bankId}`;
const newest = () =>
  house.db
    .select({ content: questionVersion.content, createdAt: question.createdAt })
    .from(question)
    .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
    .orderBy(desc(question.createdAt))
    .get()?.content;

const told: { job: string; steps: number; target: number; way: string }[] = [];
/** No job takes more steps than its target; all of them are told at the end. */
function within(job: string, steps: Steps, target: number): void {
  told.push({ job, steps: steps.taken.length, target, way: steps.taken.join(' ') });
  expect(steps.taken.length, steps.taken.join(' ')).toBeLessThanOrEqual(target);
}
afterAll(() => console.table(told));

/** The bank, with nothing in focus. */
async function atBank(): Promise<{ page: Page; steps: Steps }> {
  const page = await house.page(teacher);
  await page.goto(bank());
  await page.waitForFunction(() =>
    [...document.querySelectorAll('button')].some(
      (one) =>
        one.title.startsWith('Write a question') && Object.keys(one).some((key) => key.startsWith('__reactProps')),
    ),
  );
  return { page, steps: new Steps(page) };
}
const inText = (page: Page, label: RegExp) =>
  page.waitForFunction(
    (source) => {
      const at = document.activeElement;
      const named = at?.getAttribute('aria-labelledby');
      const label = at?.getAttribute('aria-label') ?? (named && document.getElementById(named)?.textContent);
      return new RegExp(source).test(label || (at as HTMLInputElement | null)?.labels?.[0]?.textContent || '');
    },
    {},
    label.source,
  );

it('a question of three choices', async () => {
  const { page, steps } = await atBank();
  await steps.key('n');
  await page.waitForSelector('[role=menu]');
  await steps.key('s');
  await inText(page, /^Single choice/);
  await steps.type('What does one short blast mean?');
  await steps.key('Tab');
  await inText(page, /^Choice A/);
  await steps.type('I turn to starboard');
  await steps.key('Alt', 'm');
  await steps.key('Tab');
  await steps.type('I turn to port');
  await steps.key('Tab');
  await steps.type('My engines go astern');
  await steps.key('Control', 's');
  await expect.poll(newest).toMatchObject({
    type: 'single-choice',
    choices: [{ right: true }, { right: false }, { right: false }],
  });
  within('a question of three choices', steps, 7);
});

it('a numeric question with a unit', async () => {
  const { page, steps } = await atBank();
  await steps.key('n');
  await page.waitForSelector('[role=menu]');
  await steps.key('n');
  await inText(page, /^Numeric/);
  await steps.type('How far in two hours at six knots?');
  await steps.key('Tab');
  await inText(page, /^Value/);
  await steps.type('12');
  await steps.key('Tab');
  await steps.key('Tab');
  await steps.key('Enter');
  await inText(page, /^Base unit/);
  await steps.type('nm');
  await steps.key('Control', 's');
  await expect.poll(newest).toMatchObject({
    type: 'numeric',
    accepted: [{ value: '12' }],
    units: { list: [{ name: 'nm', factor: 1 }] },
  });
  within('a numeric question with a unit', steps, 7);
});

it('a date question', async () => {
  const { page, steps } = await atBank();
  await steps.key('n');
  await page.waitForSelector('[role=menu]');
  await steps.key('d');
  await inText(page, /^Date/);
  await steps.type('When did you pass your first exam?');
  await steps.key('Control', 's');
  await expect.poll(newest).toMatchObject({ type: 'date' });
  within('a date question', steps, 3);
});

it('a second accepted answer', async () => {
  const { page, steps } = await atBank();
  await new Steps(page).key('n');
  await page.waitForSelector('[role=menu]');
  await new Steps(page).key('h');
  await inText(page, /^Short text/);
  await page.keyboard.type('What is the falling tide called?');
  await page.keyboard.press('Tab');
  await inText(page, /^Answer 1/);
  await page.keyboard.type('ebb');
  await steps.key('Enter');
  await inText(page, /^Answer 2/);
  await steps.type('ebb tide');
  await new Steps(page).key('Control', 's');
  await expect.poll(newest).toMatchObject({ type: 'short-text', accepted: [{ text: 'ebb' }, { text: 'ebb tide' }] });
  within('a second accepted answer', steps, 1);
});

it('an exam of five draws, each typed as a sentence', async () => {
  const page = await house.page(teacher);
  await page.goto(`${course()}/exams`);
  const steps = new Steps(page);
  await steps.press('Title of a new exam');
  await steps.type('Typed in one go');
  await steps.key('Enter');
  await inText(page, /^Type a draw/);
  const draw = new Steps(page);
  const typed: [sentence: string, read: string][] = [
    ['3 heights 2p', 'Draw 3 from Tides & streams › Heights, 2 points each'],
    ['2 lights easy', 'Draw 2 from'],
    ['1 streams 4p', 'Draw 1 from'],
    ['2 weather', 'Draw 2 from'],
    ['1 heights hard 3p', 'Draw 1 from'],
  ];
  for (const [sentence, read] of typed) {
    await page.keyboard.type(sentence);
    await shows(page, read);
    await shows(page, 'in the pool · Enter adds it');
    await (sentence === typed[0]?.[0] ? draw : steps).key('Enter');
    await page.waitForFunction(() => (document.activeElement as HTMLInputElement | null)?.value === '');
  }
  const lines = () =>
    house.db
      .select({ design: examRevision.design })
      .from(exam)
      .innerJoin(examRevision, eq(examRevision.id, exam.currentRevisionId))
      .where(eq(exam.title, 'Typed in one go'))
      .get()
      ?.design.parts[0]?.lines.map((line) => [line.kind === 'draw' ? line.count : 0, line.points]);
  await expect.poll(lines).toEqual([
    [3, 2],
    [2, 2],
    [1, 4],
    [2, 4],
    [1, 3],
  ]);
  within('a draw', draw, 1);
  steps.taken.push(...draw.taken);
  within('an exam of five draws', steps, 7);
});

const sittingId = (title: string) => house.db.select().from(sitting).where(eq(sitting.title, title)).get()?.id ?? '';

it('from a wrong key to a repaired class, told to the students', async () => {
  const published = sittingId('Mid-course theory exam');
  const found = house.db
    .select({ questionId: paperSlot.questionId, bankId: question.bankId })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .innerJoin(mark, eq(mark.slotId, paperSlot.id))
    .where(and(eq(attempt.sittingId, published), eq(question.type, 'single-choice'), gt(mark.points, 0)))
    .get();
  const page = await house.page(teacher);
  await page.goto(`${course()}/banks/${found?.bankId}?question=${found?.questionId}`);
  // The key is mended: another choice is the right one.
  await page.waitForSelector('input[name="right-choice"]');
  await page.waitForFunction(() =>
    [...document.querySelectorAll('input[name=right-choice]')].some((one) =>
      Object.keys(one).some((key) => key.startsWith('__reactProps')),
    ),
  );
  await page.evaluate(() => {
    const radios = [...document.querySelectorAll<HTMLInputElement>('input[name=right-choice]')];
    const right = radios.findIndex((one) => one.checked);
    const other = radios.find((one, i) => i !== right && one.name === radios[right]?.name);
    other?.click();
    other?.focus();
  });
  const told = () =>
    house.db
      .select()
      .from(outbox)
      .all()
      .filter((one) => one.subject.endsWith('has changed')).length;
  const before = told();
  const steps = new Steps(page);
  await steps.key('Control', 's');
  await shows(page, 'the old key');
  await steps.pressLike('Mark them anew');
  await shows(page, 'Old and new answers both earn');
  await steps.pressLike('anew: Mark by the new key');
  await shows(page, 'otherwise now.');
  await steps.pressLike('of Mid-course theory exam');
  await shows(page, 'each student is told what has changed and why');
  expect(told()).toBeGreaterThan(before);
  within('from a wrong key to a repaired class', steps, 5);
});

it('a make-up for one who was ill', async () => {
  const id = sittingId('Mid-course theory exam');
  const page = await house.page(teacher);
  await page.goto(`${course()}/sittings/${id}/results`);
  await shows(page, 'not handed in');
  const steps = new Steps(page);
  await steps.pressLike('Was ill');
  await inText(page, /^Writes on/);
  await steps.type('in 3 days 14:30');
  await steps.key('Enter');
  await shows(page, 'writes later and is told');
  expect(house.db.select().from(arrangement).where(eq(arrangement.sittingId, id)).all()).toMatchObject([
    { excused: false },
  ]);
  within('a make-up for one', steps, 4);
});

it('the times of a sitting', async () => {
  const draft = house.db.select().from(sitting).where(eq(sitting.state, 'draft')).get();
  const page = await house.page(teacher);
  await page.goto(`${course()}/sittings/${draft?.id}`);
  await page.waitForFunction(() =>
    [...document.querySelectorAll('input[placeholder^="tue"]')].some((one) =>
      Object.keys(one).some((key) => key.startsWith('__reactProps')),
    ),
  );
  const steps = new Steps(page);
  await page.locator('::-p-aria([name="Opens"])').click();
  steps.taken.push('[Opens]');
  await steps.type('in 3 days 9:00');
  await steps.key('Tab');
  await steps.type('in 3 days 11:00');
  await steps.key('Tab');
  await inText(page, /^Minutes/);
  await steps.type('45');
  await steps.key('Enter');
  await expect
    .poll(() => {
      const row = house.db
        .select()
        .from(sitting)
        .where(eq(sitting.id, draft?.id ?? ''))
        .get();
      return [row?.opens && row.closes ? row.closes - row.opens : null, row?.timeLimit];
    })
    .toEqual([2 * hour, 45 * minute]);
  within('the times of a sitting', steps, 5);
});

it('twenty answers marked by hand', async () => {
  const page = await house.page(teacher);
  await page.goto(`${course()}/marking`);
  await shows(page, 'Alternatives');
  const hand = () => house.db.select().from(mark).where(eq(mark.kind, 'hand')).all().length;
  const before = hand();
  const steps = new Steps(page);
  await steps.pressLike('Alternatives');
  while (hand() < before + 20) {
    const ready = await page.waitForFunction(() => {
      const text = document.body?.textContent ?? '';
      if (text.includes('All answers to this question are marked.')) return 'done';
      return document.activeElement?.hasAttribute('data-points') && text.includes('waits for a mark') ? 'type' : false;
    });
    if ((await ready.jsonValue()) === 'done') {
      // On to the next question of the queue.
      await steps.pressLike('Back to the queue');
      await page.waitForFunction(() => document.querySelector('h1')?.textContent === 'Marking');
      await steps.pressLike('Read a report');
      continue;
    }
    const so = hand();
    await steps.type('5');
    await steps.key('Enter');
    await expect.poll(hand).toBe(so + 1);
  }
  within('twenty answers marked by hand', steps, 24);
});

it('a score by hand, and a column of them pasted', async () => {
  const page = await house.page(teacher);
  await page.goto(`${course()}/gradebook`);
  await page.waitForFunction(() =>
    [...document.querySelectorAll('table[role=grid]')].some((one) =>
      Object.keys(one).some((key) => key.startsWith('__reactProps')),
    ),
  );
  const entries = () => house.db.select().from(gradeEntry).orderBy(desc(gradeEntry.id)).all();
  const before = entries().length;
  const one = new Steps(page);
  const first = '[role=gridcell][aria-label^="Logbook of "]';
  await page.locator(first).click();
  one.taken.push('[a cell]');
  await one.type('8,5');
  await one.key('Enter');
  await expect.poll(() => [entries().length, entries()[0]?.points]).toEqual([before + 1, 8.5]);
  within('a score by hand', one, 3);
  const students = await page.$$eval('tr[data-row]', (rows) => rows.length);
  const many = new Steps(page);
  await page.locator(first).click();
  many.taken.push('[a cell]');
  await page.evaluate(
    (cell, count) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', Array.from({ length: count }, (_, i) => (i % 10) + 1).join('\n'));
      const paste = new ClipboardEvent('paste', { bubbles: true, cancelable: true, clipboardData });
      document.querySelector(cell)?.dispatchEvent(paste);
    },
    first,
    students,
  );
  many.taken.push('Control+v');
  await many.press(`Enter ${students} scores`);
  await expect.poll(() => entries().length).toBe(before + 1 + students);
  within(`${students} scores pasted`, many, 3);
});

it('publishing what is ready', async () => {
  const id = sittingId('Passage-planning paper');
  const page = await house.page(teacher);
  await page.goto(`${course()}/sittings/${id}/results`);
  await shows(page, 'ready to publish');
  const before = house.db.select().from(publication).all().length;
  const steps = new Steps(page);
  await steps.pressLike('Publish ');
  await page.waitForSelector('[role=dialog]');
  await steps.press('Publish');
  await expect.poll(() => house.db.select().from(publication).all().length).toBeGreaterThan(before);
  within('publishing what is ready', steps, 3);
});
