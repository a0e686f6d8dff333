import { and, desc, eq, isNull } from 'drizzle-orm';
import type { Page } from 'puppeteer-core';
import { expect, it } from 'vitest';
import { usualRound } from '../src/core/round/roundRules';
import {
  attempt,
  course,
  doorCode,
  exam,
  handset,
  mark,
  paperSlot,
  round,
  section,
  sitting,
  user,
  vote,
} from '../src/db/schema';
import { demoPassword } from '../src/server/people/demoPeople';
import { beginRound } from '../src/server/round/beginRound';
import { must } from '../src/server/testing/school';
import { canBeUsed, desktop, phone } from './browser';
import { fill, openHouse, press, pressLike, shows, teacher } from './house';

const house = openHouse();
const courseId = () =>
  house.db.select().from(course).where(eq(course.name, 'Coastal Navigation Theory')).get()?.id ?? '';
const rounds = () => `${house.served.origin}/c/${courseId()}/rounds`;
const door = () =>
  house.db
    .select()
    .from(doorCode)
    .where(and(eq(doorCode.courseId, courseId()), isNull(doorCode.until)))
    .get()?.code ?? '';
const newest = () =>
  house.db
    .select()
    .from(sitting)
    .where(eq(sitting.isRound, true))
    .orderBy(desc(sitting.createdAt))
    .get() as typeof sitting.$inferSelect;
const held = (id: string) => house.db.select().from(round).where(eq(round.sittingId, id)).get();

/** Comes in at the door by a name, as one does on a phone. */
async function comeIn(name: string): Promise<Page> {
  const page = await house.page(null, phone);
  await page.goto(`${house.served.origin}/in?code=${door()}`);
  await fill(page, 'Your name', name);
  await press(page, 'Come in');
  await page.waitForFunction(() => /\/(in|take)\/./.test(location.pathname));
  return page;
}

/** Picks a choice by its place on the page of a device, and waits until it is saved. */
async function pick(page: Page, place: number): Promise<void> {
  await page.waitForSelector('input[type=radio]:not(:disabled)');
  const choices = await page.$$('input[type=radio]');
  await choices[place]?.evaluate((one) => (one as HTMLInputElement).click());
  await shows(page, 'Saved');
}

it('is led from a phone with a wall, asked again, shown, stopped, talked through, grouped and matched', async () => {
  const lead = await house.page(teacher, phone);
  await lead.goto(rounds());
  // The first offered is the one held last, with the choices of last time.
  await shows(lead, 'In class: signs at sea');
  await press(lead, 'Begin now');
  await lead.waitForFunction(() => /rounds\/.+/.test(location.pathname));
  const { id } = newest();
  const wall = await house.page(teacher, desktop);
  await wall.goto(`${house.served.origin}/wall/${courseId()}/${id}`);
  await shows(wall, 'Come in');
  await shows(wall, `${door().slice(0, 3)} ${door().slice(3)}`);

  // Twenty made-up handsets, and one real one.
  const handsets = await house.beside(lead);
  await handsets.goto(`${rounds()}/${id}/handsets`);
  await fill(handsets, 'How many', '20');
  await press(handsets, 'Bring them in');
  const ana = await comeIn('Ana Ruiz');
  await shows(ana, 'You are in.');
  await shows(wall, '21 are in', 60_000);
  await shows(wall, '20 of them made up');

  await pressLike(lead, 'Open question 1');
  await shows(ana, 'Question 1 of 5');
  expect(await ana.$$eval('article', ([one]) => one?.textContent)).not.toContain('right');
  await pick(ana, 0);
  await shows(wall, 'answered');
  await shows(lead, 'answered');
  // The wall says nothing of how anybody answers before it is closed.
  expect(await wall.$('table')).toBeNull();
  await pressLike(lead, 'Close it');
  await wall.waitForSelector('table');
  await shows(ana, 'closed: look at the wall');
  expect(await wall.$eval('main', (main) => main.textContent)).not.toMatch(/right|Ana Ruiz|Made-up \d/);

  await pressLike(lead, 'Ask it again');
  await shows(ana, 'asked again');
  await pick(ana, 1);
  await pressLike(lead, 'Close it');
  await shows(wall, 'stayed with their answer');
  const slot = house.db
    .select({ id: paperSlot.id })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(handset, eq(handset.userId, attempt.userId))
    .where(and(eq(handset.sittingId, id), eq(handset.typed, 'Ana Ruiz'), eq(paperSlot.position, 0)))
    .get();
  const votes = house.db
    .select()
    .from(vote)
    .where(eq(vote.slotId, slot?.id ?? ''))
    .orderBy(vote.number)
    .all();
  expect(votes.map((one) => one.number)).toEqual([1, 2]);
  expect(votes[0]?.value).not.toEqual(votes[1]?.value);

  await pressLike(lead, 'Show what is right');
  await shows(wall, 'right');
  await ana.waitForFunction(() => /Your answer is/.test(document.body.textContent ?? ''));

  // Leading goes on from another device; what is done twice is done once.
  const other = await house.page(teacher);
  await other.goto(`${rounds()}/${id}`);
  await pressLike(other, 'Open question 2');
  await shows(lead, 'Question 2 of 5');
  await shows(ana, 'Question 2 of 5');

  // One key, and nothing of what is right is left on the page.
  await other.keyboard.press('h');
  await shows(other, 'Fit to be seen: on');
  expect(await other.$eval('main', (main) => main.textContent)).not.toContain('Right is');

  await press(other, 'Stop');
  await press(other, 'Stop it');
  await shows(ana, 'The round has been stopped.');
  await shows(wall, 'Stopped.');
  await shows(lead, 'stopped');
  await expect
    .poll(
      () =>
        house.db
          .select()
          .from(attempt)
          .where(and(eq(attempt.sittingId, id), eq(attempt.state, 'running')))
          .all().length,
      {
        timeout: 15_000,
      },
    )
    .toBe(0);
  // What is made up has no mark.
  const marked = house.db
    .select({ userId: attempt.userId })
    .from(mark)
    .innerJoin(paperSlot, eq(paperSlot.id, mark.slotId))
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .where(eq(attempt.sittingId, id))
    .all();
  expect(new Set(marked.map((one) => one.userId)).size).toBe(1);

  // Talked through: wall and device follow.
  await other.goto(`${rounds()}/${id}/after`);
  await shows(other, '1 person took part');
  await shows(other, '20 made-up handsets left out');
  await press(other, 'Talk it through');
  await shows(ana, 'Question 1: looked at together');
  await press(other, 'Next');
  await shows(ana, 'Question 2: looked at together');
  await shows(wall, 'Question 2');
  await press(other, 'End');
  await shows(ana, 'The round has been stopped.');

  // Matched to the roster, and taken back.
  await other.goto(`${rounds()}/${id}/names`);
  const select = await other.waitForSelector('select');
  const somebody = await select?.evaluate((one) => (one as HTMLSelectElement).options[1]?.value ?? '');
  await other.select('select', somebody ?? '');
  await press(other, 'Match 1 name');
  await shows(other, '1 name is matched.');
  const inside = () =>
    house.db
      .select()
      .from(attempt)
      .where(and(eq(attempt.sittingId, id), eq(attempt.state, 'handed-in')))
      .all();
  expect(inside().map((one) => one.userId)).toEqual([somebody]);
  await shows(ana, 'The round has been stopped.');

  // Grouped, and a section made of a group.
  await other.goto(`${rounds()}/${id}/groups?size=2`);
  await shows(other, 'Group 1');
  await pressLike(other, 'Make a section');
  await fill(other, 'Name of the section', 'Needs lights');
  await press(other, 'Make it');
  await shows(other, '1 person is in the section Needs lights now.');
  expect(house.db.select().from(section).where(eq(section.name, 'Needs lights')).all()).toHaveLength(1);
}, 180_000);

it('is gone through at everybody’s own pace, counts in the gradebook, and follows the hand-in', async () => {
  const page = await house.page(teacher);
  await page.goto(rounds());
  await shows(page, 'Begin a round');
  await page.locator('::-p-xpath(//label[contains(., "In class: who gives way")])').click();
  await page.locator('button[aria-label^="Pace: "]').click();
  await page.locator('::-p-xpath(//label[contains(., "Everybody at their own pace")])').click();
  await page.locator('button[aria-label^="Counting: "]').click();
  await page.locator('::-p-xpath(//label[contains(., "counts by score")])').click();
  await press(page, 'Begin now');
  await page.waitForFunction(() => /rounds\/.+/.test(location.pathname));
  const { id } = newest();
  // Whoever is signed in comes in as they are.
  const own = await house.page('aisha.benhaddou@ternpoint.example', phone);
  await own.goto(`${house.served.origin}/my`);
  await pressLike(own, 'Come in');
  await press(own, 'Come in');
  await own.waitForFunction(() => location.pathname.startsWith('/take/'));
  await own.waitForSelector('input[type=radio]:not(:disabled)');
  await (await own.$$('input[type=radio]'))[0]?.evaluate((one) => (one as HTMLInputElement).click());
  await shows(page, '1 person is in');
  await expect
    .poll(() => page.$eval('main', (main) => /answered/i.test(main.textContent ?? '')), { timeout: 10_000 })
    .toBe(true);
  await press(page, 'Stop');
  await press(page, 'Stop it');
  await own.waitForFunction((round) => location.pathname === `/in/${round}`, { timeout: 20_000 }, id);
  await shows(own, 'The round has been stopped.');
  await page.goto(`${house.served.origin}/c/${courseId()}/gradebook`);
  await shows(page, 'In class: who gives way');
}, 120_000);

it('asks a single thing on the spot, and scores it by a key that is given afterwards', async () => {
  const page = await house.page(teacher);
  await page.goto(rounds());
  await fill(page, 'Its words', 'Which side do we pass?');
  await press(page, 'Ask it now');
  await page.waitForFunction(() => /rounds\/.+/.test(location.pathname));
  const { id, examId } = newest();
  expect(house.db.select().from(exam).where(eq(exam.id, examId)).get()?.archivedAt).not.toBeNull();
  const bo = await comeIn('Bo Chen');
  await shows(bo, 'Which side do we pass?');
  await pick(bo, 2);
  await pressLike(page, 'Close it');
  await shows(bo, 'closed');
  await fill(page, 'What is right', 'C');
  await press(page, 'Score by this');
  await page.waitForFunction(() => /C.*right/.test(document.querySelector('main table')?.textContent ?? ''));
  await pressLike(page, 'Show what is right');
  await shows(bo, 'Your answer is right.');
  // Without a network what is answered stays, and the round shows its present phase when the device is back.
  await press(page, 'Ask another thing');
  await page.locator('select').fill('true-false');
  await bo.setOfflineMode(true);
  await press(page, 'Ask it now');
  await expect.poll(() => held(id)?.led?.questions.length).toBe(2);
  await bo.setOfflineMode(false);
  await shows(bo, 'Question 2 of 2');
}, 120_000);

it('sends whoever has to sign in there, and brings them back to the door', async () => {
  const person = house.db.select().from(user).where(eq(user.email, teacher)).get();
  const context = { db: house.db, actor: { userId: person?.id ?? '', name: 'Teacher' }, now: Date.now() };
  const examId = house.db.select().from(exam).where(eq(exam.title, 'In class: who gives way')).get()?.id ?? '';
  const rules = { ...usualRound, comingIn: 'sign-in' as const };
  const { sittingId } = must(beginRound(context, courseId(), { examId, rules }));
  const page = await house.page(null, phone);
  await page.goto(`${house.served.origin}/in?code=${door()}`);
  await page.waitForFunction(() => /Which one|signed in/.test(document.body.textContent ?? ''));
  if ((await page.content()).includes('Which one')) await pressLike(page, 'In class: who gives way');
  await press(page, 'Sign in');
  await fill(page, 'Email or student number', 'aisha.benhaddou@ternpoint.example');
  await fill(page, 'Password', demoPassword);
  await press(page, 'Sign in');
  await page.waitForFunction(
    () => location.pathname === '/in' && /Which one|You come in as/.test(document.body?.textContent ?? ''),
  );
  await canBeUsed(page);
  if ((await page.content()).includes('Which one')) await pressLike(page, 'In class: who gives way');
  await shows(page, 'You come in as');
  await press(page, 'Come in');
  await page.waitForFunction((id) => location.pathname === `/in/${id}`, {}, sittingId);
  await shows(page, 'You are in.');
}, 60_000);

it('tells at the door what is wrong with a code, and what is open', async () => {
  const page = await house.page(null, phone);
  await page.goto(`${house.served.origin}/in`);
  await fill(page, 'Door code', 'AAA AAA');
  await press(page, 'Go on');
  await shows(page, 'There is no such code.');
  await fill(page, 'Door code', ` ${door().slice(0, 3).toLowerCase()}-${door().slice(3)}`);
  await press(page, 'Go on');
  await page.waitForFunction(() => /Nothing is open|Which one|Come in/.test(document.body.textContent ?? ''));
});
