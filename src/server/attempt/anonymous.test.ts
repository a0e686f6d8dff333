import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { day, hour, minute, second } from '@/core/base/time';
import { anonymousAnswer, attempt, paperSlot, questionVersion } from '@/db/schema';
import { gradebook } from '../gradebook/gradebook';
import type { Actor } from '../house/context';
import { sittingAnswers } from '../release/answerTally';
import { publishReady } from '../release/publish';
import { sittingResults } from '../release/results';
import { begins, must, refusal, School } from '../testing/school';
import { giveSurvey } from '../testing/survey';
import { handInExpired } from './endAttempt';
import { handIn } from './handIn';
import { saveResponses } from './saveResponses';
import { startAttempt } from './startAttempt';
import { openForWriting } from './takeAttempt';

const folder = mkdtempSync(join(tmpdir(), 'wuzzen-anonymous-'));
let school: School;
let sittingId: string;

beforeAll(() => {
  school = new School(7, join(folder, 'school.db'));
  sittingId = giveSurvey(school);
});
afterAll(() => {
  school.db.$client.close();
  rmSync(folder, { recursive: true, force: true });
});

const onceOver = 40 * day;
const answersAt = (later: number) => must(sittingAnswers(school.as(school.teacher, later), school.courseId, sittingId));

/** Takes the survey as a person would: opens it, keeps the answers, brings them with the hand-in. */
function take(who: Actor, text: string, later: number) {
  const { attemptId } = must(startAttempt(school.as(who, later), sittingId));
  const opened = must(openForWriting(school.as(who, later), attemptId));
  const slots = opened.slots.map((slot) => slot.slotId);
  const answers = opened.slots.map(({ slotId, view }) => ({
    slotId,
    value: view?.type === 'single-choice' ? { picked: view.choices[0]?.key } : { text },
  }));
  return { attemptId, opened, slots, answers };
}

/** Every table with its rows, as a person with the file sees them. */
function everything(): Record<string, Record<string, unknown>[]> {
  const tables = school.db.$client
    .prepare("select name from sqlite_master where type = 'table' and name not like 'sqlite_%'")
    .all() as { name: string }[];
  return Object.fromEntries(
    tables.map(({ name }) => [name, school.db.$client.prepare(`select * from "${name}"`).all() as never]),
  );
}

describe('an anonymous sitting', () => {
  const handed: { who: Actor; attemptId: string; slots: string[]; text: string }[] = [];

  it('takes no answer before the hand-in, and says so to the page', () => {
    const [who] = school.students as [Actor];
    const { attemptId, opened, slots, answers } = take(who, 'a secret wish 1', minute);
    expect(opened.anonymous).toBe(true);
    const [saved] = saveResponses(school.db, [
      {
        context: school.as(who, 2 * minute),
        save: {
          attemptId,
          slotId: slots[0] ?? '',
          epoch: opened.epoch,
          sequence: 1,
          value: { text: 'x' },
          comeBack: false,
        },
      },
    ]);
    expect(saved && refusal(saved)).toBe('bad-input');
    expect(school.db.select().from(anonymousAnswer).all()).toEqual([]);
    const receipt = must(handIn(school.as(who, 3 * minute), attemptId, { answers }));
    expect([receipt.answers, receipt.code]).toEqual([null, '']);
    handed.push({ who, attemptId, slots, text: 'a secret wish 1' });
  });

  it('shows nothing of what was answered before five have handed in and it is over for everyone', () => {
    for (const [i, who] of school.students.slice(1, 5).entries()) {
      // Two looks with one hand-in between them, which the room names, show no difference.
      expect(answersAt((i + 4) * minute)).toMatchObject({ questions: null, held: 'not-over', leftOut: 0 });
      const text = `a secret wish ${i + 2}`;
      const { attemptId, slots, answers } = take(who, text, (i + 4) * minute);
      must(handIn(school.as(who, (i + 5) * minute), attemptId, { answers }));
      handed.push({ who, attemptId, slots, text });
    }
    expect(answersAt(30 * minute)).toMatchObject({ questions: null, held: 'not-over' });
    const page = answersAt(onceOver);
    expect([page.sheets, page.held]).toEqual([5, null]);
    // Each drew three of six questions: who was asked one with few others could be told by what they wrote.
    expect(page.questions?.every((question) => question.asked >= 5)).toBe(true);
    const asked = new Map<string, number>();
    for (const { questionId } of school.db.select().from(anonymousAnswer).all())
      asked.set(questionId, (asked.get(questionId) ?? 0) + 1);
    expect(page.leftOut).toBe([...asked.values()].filter((count) => count < 5).length);
    const open = page.questions?.find((question) => question.type === 'short-text');
    expect(open?.answers.map((one) => one.text)).toEqual([1, 2, 3, 4, 5].map((n) => `a secret wish ${n}`));
  });

  it('stores no link from an answer to a person: not by id, time, order or paper', () => {
    const tables = everything();
    const answers = tables.anonymous_answer ?? [];
    expect(answers).toHaveLength(5 * 4);
    const ofPersons = new Set(
      handed.flatMap(({ who, attemptId, slots }) => [who.userId, who.name, attemptId, ...slots]),
    );
    const keys = new Set(answers.flatMap((row) => [row.id, row.sheet] as string[]));
    for (const [table, rows] of Object.entries(tables))
      for (const row of rows) {
        const cells = JSON.stringify(row);
        // Nothing that names a person, an attempt or one of its slots stands with an answer …
        if (table === 'anonymous_answer') for (const known of ofPersons) expect(cells).not.toContain(known);
        // … and no key of an answer, nor any of its words, stands anywhere else.
        else {
          for (const key of keys) expect(cells).not.toContain(key);
          expect(cells).not.toContain('a secret wish');
        }
      }
    // No time: no number in an answer lies within the years of the school.
    const numbers = answers.flatMap((row) => Object.values(row).filter((cell) => typeof cell === 'number'));
    expect(numbers.every((number) => number < 1_000_000)).toBe(true);
    // No order: the table has no row numbers, and its rows lie by their random keys.
    expect(() => school.db.$client.prepare('select rowid from anonymous_answer').get()).toThrow(/rowid/);
    const ids = answers.map((row) => row.id as string);
    expect(ids).toEqual([...ids].sort());
    // No paper: neither its slots nor the seed from which it could be drawn again.
    expect(school.db.select().from(paperSlot).all()).toEqual([]);
    const seeds = school.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all();
    expect(seeds.map((one) => one.seed)).toEqual(Array(5).fill(''));
  });

  it('tells by no version that stands fast since a start what was on the paper of who started then', () => {
    const versions = school.db.select().from(questionVersion).all();
    expect(new Set(versions.map((version) => version.frozenAt))).toEqual(new Set([begins + minute]));
    expect(versions).toHaveLength(7);
  });

  it('leaves no deleted paper behind in the file', () => {
    school.db.$client.pragma('wal_checkpoint(TRUNCATE)');
    const bytes = readFileSync(join(folder, 'school.db')).toString('latin1');
    for (const { slots } of handed) for (const slot of slots) expect(bytes).not.toContain(slot);
  });

  it('keeps the answers of one sheet together under a key of their own', () => {
    const sheets = new Map<string, number>();
    for (const row of school.db.select().from(anonymousAnswer).all())
      sheets.set(row.sheet, (sheets.get(row.sheet) ?? 0) + 1);
    expect([...sheets.values()]).toEqual(Array(5).fill(4));
  });

  it('knows that a person took part, and counts it in full', () => {
    const results = must(sittingResults(school.as(school.teacher), school.courseId, sittingId));
    expect(results.rows.map((row) => [row.state, row.result?.earned ?? null, row.receipt, row.signs.length])).toEqual([
      ...Array(5).fill(['handed-in', 10, null, 0]),
      ...Array(2).fill(['not-started', null, null, 0]),
    ]);
    must(publishReady(school.as(school.teacher, hour), school.courseId, sittingId, { expected: 5 }));
    const book = must(gradebook(school.as(school.teacher, hour), school.courseId));
    expect(book.rows.map((row) => row.points[0])).toEqual([10, 10, 10, 10, 10, null, null]);
  });

  it('takes what an open page brings at its deadline, and nothing of a page that was closed', () => {
    const [a, b] = school.students.slice(5) as [Actor, Actor];
    const inTime = take(a, 'a late wish', 0);
    const gone = take(b, 'a lost wish', 0);
    expect(handInExpired({ db: school.db, now: begins + hour + 2 * second })).toBe(0);
    expect(
      must(handIn(school.as(a, hour + 2 * second), inTime.attemptId, { answers: inTime.answers })).standing,
    ).toMatchObject({
      by: 'student',
    });
    expect(handInExpired({ db: school.db, now: begins + hour + 4 * second })).toBe(1);
    expect(
      must(handIn(school.as(b, hour + 5 * second), gone.attemptId, { answers: gone.answers })).standing,
    ).toMatchObject({
      by: 'clock',
    });
    const texts = JSON.stringify(everything().anonymous_answer);
    expect([texts.includes('a late wish'), texts.includes('a lost wish')]).toEqual([true, false]);
    const results = must(sittingResults(school.as(school.teacher), school.courseId, sittingId));
    expect(results.rows.find((row) => row.name === b.name)?.result).toBeNull();
  });
});
