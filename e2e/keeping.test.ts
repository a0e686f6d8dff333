import { and, eq, isNull } from 'drizzle-orm';
import type { BrowserContext, CDPSession, Page } from 'puppeteer-core';
import { describe, expect, it } from 'vitest';
import { instructors } from '../demo/people';
import {
  attempt,
  bank as bankTable,
  courseBank,
  course as courseTable,
  exam,
  examRevision,
  membership,
  question,
  response,
  sitting,
  user,
} from '../src/db/schema';
import { demoPassword } from '../src/server/people/demoPeople';
import { fixedLines, giveExam } from './giveExam';
import { fill, markerEmail, openHouse, press, shows, teacher } from './house';
import { signIn } from './serve';

const house = openHouse();
const course = () => `/c/${house.db.select().from(sitting).get()?.courseId}`;
/** The exam by the title that the demo gives it: tests give it others. */
let known = '';
const examId = (): string => {
  known ||= house.db.select().from(exam).where(eq(exam.title, 'Final theory exam')).get()?.id ?? '';
  return known;
};
const storedTitle = (id: string) => house.db.select().from(exam).where(eq(exam.id, id)).get()?.title;
const saves = () =>
  Number(house.db.$client.prepare("select count(*) from audit where action = 'exam.save'").pluck().get());

/** What the server is asked reaches it, and what it answers gets lost. */
async function loseAnswers(page: Page, where = '*/exams/*'): Promise<CDPSession> {
  const wire = await page.createCDPSession();
  wire.on('Fetch.requestPaused', ({ requestId, request }) => {
    const lost = request.method === 'POST';
    void wire
      .send(lost ? 'Fetch.failRequest' : 'Fetch.continueResponse', {
        requestId,
        ...(lost ? { errorReason: 'ConnectionReset' as const } : {}),
      } as never)
      .catch(() => undefined);
  });
  await wire.send('Fetch.enable', { patterns: [{ urlPattern: where, requestStage: 'Response' }] });
  return wire;
}

/** Somebody else signs in at a browser. @returns what brings the one before back */
async function signInInstead(context: BrowserContext, email: string): Promise<() => Promise<void>> {
  const cookies = await signIn(house.served.origin, email, demoPassword);
  const own = await context.cookies();
  const [name = '', ...value] = (cookies.split('; ')[0] ?? '').split('=');
  const session = own.find((one) => one.name === name);
  const next = { ...session, name, value: value.join('='), domain: '127.0.0.1', path: '/', expires: -1 };
  await context.setCookie(next as never);
  return () => context.setCookie(session as never);
}

const title = (page: Page, text: string) => fill(page, 'Title of the exam', text);
const shown = (page: Page) => page.$eval('#exam-title', (field) => (field as HTMLInputElement).value);

describe('an exam plan', () => {
  it('a save whose answer got lost, then two sentences more: nobody else is blamed, nothing is lost, nothing is saved twice', async () => {
    const id = examId();
    const page = await house.page(teacher);
    await page.goto(`${house.served.origin}${course()}/exams/${id}`);
    const before = saves();
    const wire = await loseAnswers(page);
    await title(page, 'Final theory exam, first sentence');
    await shows(page, 'not saved: no connection. It is kept in this browser, and tried again by itself');
    // The server has taken what was sent first, and the page does not know it.
    await expect.poll(() => saves() - before).toBe(1);
    await title(page, 'Final theory exam, first sentence and second');
    await wire.send('Fetch.disable');
    await page.waitForFunction(() => /· saved/.test(document.querySelector('[role=status]')?.textContent ?? ''));
    expect(storedTitle(id)).toBe('Final theory exam, first sentence and second');
    expect(saves() - before).toBe(2);
  });

  it('the lid closed without a network: the Desk leads back, the next person at the machine reads nothing, and it goes on by itself', async () => {
    const id = examId();
    const page = await house.page(teacher);
    const at = `${house.served.origin}${course()}/exams/${id}`;
    await page.goto(at);
    await page.setOfflineMode(true);
    await title(page, 'Final theory exam, typed on the train');
    await shows(page, 'not saved: no connection');
    await page.close();

    // Somebody else signs in at the same browser.
    const context = page.browserContext();
    const back = await signInInstead(context, markerEmail);
    const other = await context.newPage();
    await other.goto(`${house.served.origin}${course()}`);
    await shows(other, 'Desk');
    const kept = await other.evaluate(() => JSON.stringify({ ...localStorage }));
    expect(kept).toContain('wuzzen-kept/');
    expect(kept).not.toContain('train');
    expect(await other.evaluate(() => document.body.textContent)).not.toContain('unfinished');
    await other.close();

    // And its author again, before the network is back for that page.
    await back();
    const again = await context.newPage();
    await again.goto(`${house.served.origin}${course()}`);
    await shows(again, '1 thing unfinished');
    await again.locator('::-p-xpath(//section[@aria-label="Unfinished"]//a)').click();
    await again.waitForSelector('#exam-title');
    await expect.poll(() => shown(again)).toBe('Final theory exam, typed on the train');
    await expect.poll(() => storedTitle(id)).toBe('Final theory exam, typed on the train');
    await again.waitForFunction(() => !Object.keys(localStorage).some((key) => key.startsWith('wuzzen-kept/')));
  });

  it('two people on one plan: joined where they do not touch, side by side where they do', async () => {
    const id = examId();
    const at = `${house.served.origin}${course()}/exams/${id}`;
    const page = await house.page(teacher);
    await page.goto(at);
    // A colleague saves meanwhile, elsewhere on the plan and in its title.
    const colleague = (change: (row: { title: string; pages: string }) => void) => {
      const row = house.db.select().from(exam).where(eq(exam.id, id)).get();
      const revision = house.db
        .select()
        .from(examRevision)
        .where(eq(examRevision.id, row?.currentRevisionId ?? ''))
        .get();
      if (!row || !revision) throw new Error('an exam');
      const next = { title: row.title, pages: String(revision.design.pages ?? 'each') };
      change(next);
      house.db.update(exam).set({ title: next.title }).where(eq(exam.id, id)).run();
      house.db
        .update(examRevision)
        .set({ edit: revision.edit + 1, design: { ...revision.design, pages: next.pages as never } })
        .where(eq(examRevision.id, revision.id))
        .run();
    };
    colleague((row) => {
      row.pages = 'all';
    });
    await title(page, 'Mine');
    await expect.poll(() => storedTitle(id)).toBe('Mine');
    const pages = () =>
      house.db
        .select()
        .from(examRevision)
        .innerJoin(exam, eq(exam.currentRevisionId, examRevision.id))
        .where(eq(exam.id, id))
        .get()?.exam_revision.design.pages;
    expect(pages()).toBe('all');
    colleague((row) => {
      row.title = 'Theirs';
    });
    await title(page, 'Mine again');
    await shows(page, 'Somebody else has changed the same');
    await shows(page, 'Theirs: “Theirs”');
    expect(storedTitle(id)).toBe('Theirs');
    await press(page, 'Save it so');
    await expect.poll(() => storedTitle(id)).toBe('Mine again');
  });
});

describe('a new question', () => {
  it('whose saving was never answered, and into which more was typed, is one question with all of it', async () => {
    const bank = house.db.select().from(courseBank).get()?.bankId;
    const named = () =>
      house.db
        .select()
        .from(question)
        .all()
        .filter((row) => row.shortName.startsWith('Lost on the wire'))
        .map((row) => row.shortName);
    const page = await house.page(teacher);
    await page.goto(`${house.served.origin}${course()}/banks/${bank}?begin=true-false`);
    await page.waitForSelector('[role=textbox]');
    await fill(page, 'Short name (private)', 'Lost on the wire');
    await page.locator('[role=textbox]').click();
    await page.keyboard.type('The ebb runs after high water.');
    await page.locator('::-p-xpath(//label[contains(., "True")]//input)').click();
    const wire = await loseAnswers(page, '*/banks/*');
    await press(page, 'Save');
    await expect.poll(named).toEqual(['Lost on the wire']);
    await shows(page, 'Not saved');
    await fill(page, 'Short name (private)', 'Lost on the wire, and found');
    await wire.send('Fetch.disable');
    await press(page, 'Save');
    await expect.poll(named).toEqual(['Lost on the wire, and found']);
  });
});

describe('a question being written', () => {
  it('is there for nobody else at the machine, nor in another bank, and for its author again', async () => {
    const bank = house.db.select().from(courseBank).get()?.bankId;
    const other = instructors[1]?.email ?? '';
    const page = await house.page(teacher);
    const at = `${house.served.origin}${course()}/banks/${bank}?begin=short-text`;
    await page.goto(at);
    await page.waitForSelector('[role=textbox]');
    await page.setOfflineMode(true);
    await fill(page, 'Short name (private)', 'Half of a question');
    await fill(page, 'Answer 1', 'the key of it');
    await shows(page, 'kept in this browser');
    await page.setOfflineMode(false);
    const context = page.browserContext();
    await page.close();
    const back = await signInInstead(context, other);
    const nameIn = async (address: string) => {
      const opened = await context.newPage();
      await opened.goto(address);
      await opened.waitForSelector('[role=textbox]');
      const field = await opened.waitForSelector('::-p-aria([name="Short name (private)"])');
      const name = await field?.evaluate((element) => (element as HTMLInputElement).value);
      const text = await opened.evaluate(() => `${document.body.textContent}${JSON.stringify({ ...localStorage })}`);
      expect(text).not.toContain('the key of it');
      await opened.close();
      return name;
    };
    expect(await nameIn(at)).toBe('');
    await back();
    // Another bank of the same course begins empty too.
    const begun = await house.page(teacher);
    await begun.goto(`${house.served.origin}${course()}/banks?list=yes`);
    await fill(begun, 'Begin another bank', 'Second bank');
    await press(begun, 'Begin it');
    await shows(begun, 'Second bank is begun.');
    const second = house.db.select().from(bankTable).where(eq(bankTable.name, 'Second bank')).get()?.id;
    expect(await nameIn(`${house.served.origin}${course()}/banks/${second}?begin=short-text`)).toBe('');
    const again = await context.newPage();
    await again.goto(at);
    await shows(again, 'What you typed here before has been brought back.');
    const field = await again.waitForSelector('::-p-aria([name="Answer 1"])');
    expect(await field?.evaluate((element) => (element as HTMLInputElement).value)).toBe('the key of it');
  });
});

describe('columns and weights', () => {
  it('kept by two people from pages opened before: neither undoes the other, and what is tried outlives a reload', async () => {
    const rules = () =>
      house.db
        .select()
        .from(courseTable)
        .where(eq(courseTable.id, course().slice(3)))
        .get()?.gradebook;
    const [mine, theirs] = [await house.page(teacher), await house.page(instructors[1]?.email ?? '')];
    const at = `${house.served.origin}${course()}/gradebook/rules`;
    await mine.goto(at);
    await theirs.goto(at);
    const pick = async (page: Page, label: string, says: string) => {
      await page.bringToFront();
      await page.locator(`button[aria-label^="${label}"]`).click();
      await page.locator(`::-p-xpath(//fieldset//label[normalize-space(.)="${says}"])`).click();
    };
    await pick(mine, 'Decimals', '3 decimals');
    await shows(mine, 'Not kept yet');
    await mine.waitForFunction(() => Object.keys(localStorage).some((key) => key.startsWith('wuzzen-kept/')));
    await mine.reload();
    await shows(mine, 'What you had begun to change here has been brought back.');
    await pick(theirs, 'What is missing', 'does not count yet');
    await press(theirs, 'Save the changes');
    await shows(theirs, 'The changes are kept.');
    // What they see next is what they saved, whatever is saved before their page has come back by itself.
    await theirs.goto(at);
    await mine.bringToFront();
    await press(mine, 'Save the changes');
    await shows(mine, 'The changes are kept.');
    expect(rules()).toMatchObject({ missing: 'not-yet', decimals: 3 });
    // Where both touch the same, the later is told what is saved, and keeps its own only on seeing it.
    await pick(theirs, 'Decimals', '2 decimals');
    await press(theirs, 'Save the changes');
    await shows(theirs, 'Somebody else has saved this otherwise since you began.');
    expect(await theirs.$eval('dl', (list) => list.textContent)).toBe('Decimals3');
    expect(rules()).toMatchObject({ decimals: 3 });
    await press(theirs, 'Save the changes');
    await expect.poll(rules).toMatchObject({ missing: 'not-yet', decimals: 2 });
  });
});

describe('a browser that forbids pages to keep anything', () => {
  const forbid = (page: Page) =>
    page.evaluateOnNewDocument(() => {
      for (const store of ['localStorage', 'sessionStorage'])
        Object.defineProperty(window, store, {
          get() {
            throw new DOMException('The store is forbidden.', 'SecurityError');
          },
        });
    });

  it('still plans an exam, and a student still takes one', async () => {
    const page = await house.page(teacher);
    await forbid(page);
    await page.goto(`${house.served.origin}${course()}/exams/${examId()}`);
    await title(page, 'Planned without a store');
    await expect.poll(() => storedTitle(examId())).toBe('Planned without a store');
    const { sittingId } = giveExam(house.db, 'Taken without a store', (design) => ({
      ...design,
      parts: design.parts.map((part) => ({ ...part, lines: fixedLines(house.db, ['Isophase']) })),
    }));
    const takes = house.db
      .select({ email: user.email })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .where(and(eq(membership.role, 'student'), isNull(membership.removedAt)))
      .get();
    const student = await house.page(takes?.email ?? '');
    await forbid(student);
    await student.goto(`${house.served.origin}/my`);
    await press(student, 'Rules and start of Taken without a store');
    await student.locator('::-p-xpath(//button[starts-with(normalize-space(.), "Start now")])').click();
    await student.waitForSelector('input[type=radio]:not(:disabled)');
    await student.locator('main li:nth-child(1) label').click();
    const answers = () =>
      house.db
        .select({ id: response.slotId })
        .from(response)
        .innerJoin(attempt, eq(attempt.id, response.attemptId))
        .where(eq(attempt.sittingId, sittingId))
        .all().length;
    await expect.poll(answers).toBe(1);
  });
});

describe('a mark', () => {
  it('whose answer got lost sends itself again, and is one mark', async () => {
    const marks = () => Number(house.db.$client.prepare("select count(*) from mark where kind = 'hand'").pluck().get());
    const page = await house.page(teacher);
    await page.goto(`${house.served.origin}${course()}/marking`);
    await page.locator('::-p-xpath(//a[starts-with(normalize-space(.), "Alternatives")])').click();
    await page.waitForFunction(() => document.activeElement?.hasAttribute('data-points'));
    const before = marks();
    const wire = await loseAnswers(page, '*/marking/*');
    await page.keyboard.type('5');
    await page.keyboard.press('Enter');
    await expect.poll(marks).toBe(before + 1);
    await shows(page, 'mark waits to be saved');
    await wire.send('Fetch.disable');
    await page.waitForFunction(() => !document.body.textContent?.includes('waits to be saved'));
    expect(marks()).toBe(before + 1);
    await page.waitForFunction(() => !Object.keys(localStorage).some((key) => key.startsWith('wuzzen-kept/')));
  });
});
