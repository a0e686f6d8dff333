import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { notFound, ok, refused } from '@/core/base/result';
import { minute } from '@/core/base/time';
import { audit, category, correction, paperSlot } from '@/db/schema';
import { toBank } from '../bank/toBank';
import { toCourse } from '../people/toCourse';
import { correct, reportQuestion, withdrawCorrection } from '../room/reportedQuestions';
import { must, refusal, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { logRefusal } from './refusals';
import { command, field, query } from './useCase';

let school: School;
beforeEach(() => {
  school = new School(1);
});
const teacher = () => school.as(school.teacher, minute);
const where = () => [school.courseId, school.bankId] as const;
const nameNow = () => school.db.select().from(category).where(eq(category.id, school.categoryId)).get()?.name;
const lines = () => school.db.select().from(audit).all().length;
const told: string[] = [];

const word = z.string().trim().min(1, 'Say it.').max(5, 'At most 5.');
/** Renames the category, and refuses where the word asks for it. */
const rename = command({
  admits: toBank('bank.change'),
  takes: [field('word', word)],
  logs: 'test.rename',
  does({ tx, bankId, record, afterwards }, name) {
    tx.update(category).set({ name }).where(eq(category.bankId, bankId)).run();
    afterwards(() => told.push(name));
    record({ subjectId: bankId, detail: { name } });
    return name === 'no' ? refused('conflict', 'Not that.') : ok(name);
  },
});

describe('a command', () => {
  beforeEach(() => {
    told.length = 0;
  });

  it('reads what was sent after it has admitted, and says what is wrong at its field', () => {
    expect(rename(teacher(), ...where(), ' ')).toEqual({
      ok: false,
      problems: [{ code: 'bad-input', field: 'word', message: 'Say it.' }],
    });
    expect(refusal(rename(school.as(school.marker), ...where(), ' '))).toBe('not-allowed');
    expect(refusal(rename(school.as(school.elsewhere.teacher), ...where(), 'a'))).toBe('not-found');
  });

  it('writes, with its line in the log, and tells what it tells once that is stored', () => {
    const before = lines();
    expect(must(rename(teacher(), ...where(), ' a '))).toBe('a');
    expect([nameNow(), lines() - before, told]).toEqual(['a', 1, ['a']]);
  });

  it('that refuses has written nothing and told nobody, also where it had written before it refused', () => {
    const [name, before] = [nameNow(), lines()];
    expect(refusal(rename(teacher(), ...where(), 'no'))).toBe('conflict');
    expect([nameNow(), lines(), told]).toEqual([name, before, []]);
  });

  it('that fails has written nothing either', () => {
    const fails = command({
      admits: toBank('bank.change'),
      logs: 'test.fail',
      does({ tx, bankId }) {
        tx.update(category).set({ name: 'half' }).where(eq(category.bankId, bankId)).run();
        throw new Error('no');
      },
    });
    const name = nameNow();
    expect(() => fails(teacher(), ...where())).toThrow('no');
    expect(nameNow()).toBe(name);
  });

  it('that refuses within another leaves what the other wrote; the other decides', () => {
    const goesOn = (heed: boolean) =>
      command({
        admits: toBank('bank.change'),
        logs: 'test.outer',
        does({ tx, context, courseId, bankId, record }) {
          tx.update(category).set({ name: 'outer' }).where(eq(category.bankId, bankId)).run();
          record({ subjectId: bankId });
          const inner = rename(context, courseId, bankId, 'no');
          return inner.ok || !heed ? ok(null) : inner;
        },
      });
    const [name, before] = [nameNow(), lines()];
    expect(refusal(goesOn(true)(teacher(), ...where()))).toBe('conflict');
    expect([nameNow(), lines()]).toEqual([name, before]);
    must(goesOn(false)(teacher(), ...where()));
    expect([nameNow(), lines() - before, told]).toEqual(['outer', 1, []]);
  });

  it('that changes something and leaves no line in the log is a fault, not a change', () => {
    const silent = command({
      admits: toBank('bank.change'),
      logs: 'test.silent',
      does({ tx, bankId }) {
        tx.update(category).set({ name: 'silent' }).where(eq(category.bankId, bankId)).run();
        return ok(null);
      },
    });
    const name = nameNow();
    expect(() => silent(teacher(), ...where())).toThrow('test.silent was done and does not stand in the log');
    expect(nameNow()).toBe(name);
  });

  it('that was prepared is admitted anew when it is written', async () => {
    let admitted = true;
    const door = {
      ...toCourse('bank.change'),
      open: (...asked: Parameters<ReturnType<typeof toCourse>['open']>) =>
        admitted ? toCourse('bank.change').open(...asked) : notFound('course'),
    };
    const slow = command({
      admits: door,
      logs: 'test.slow',
      async prepares() {
        admitted = false;
        return ok('ready');
      },
      does: ({ ready }) => ok(ready),
    });
    expect(refusal(await slow(teacher(), school.courseId))).toBe('not-found');
  });

  it('writes down who was refused, though nothing else of it stays', () => {
    const refuses = command({
      admits: toCourse('bank.change'),
      unlogged: 'a test',
      does({ context, courseId }) {
        logRefusal(context, { action: 'test', courseId, subjectId: 'x' });
        return refused('not-allowed', 'No.');
      },
    });
    refuses(teacher(), school.courseId);
    expect(school.db.select().from(audit).where(eq(audit.action, 'refused.test')).all()).toHaveLength(1);
  });
});

it('a query answers what it finds, with what its door knows', () => {
  const names = query({
    admits: toBank('bank.see'),
    does: ({ courseName, role, bankId }) => ok([courseName, role, bankId]),
  });
  expect(must(names(teacher(), ...where()))).toEqual(['Seamanship', 'instructor', school.bankId]);
});

describe('what fails unforeseen', () => {
  const failing = (why: unknown) =>
    query({
      admits: toBank('bank.see'),
      does: () => {
        throw why;
      },
    });

  it('carries the id of its request, by which the log tells what happened', () => {
    const why = new Error('no such table');
    const asked = { ...teacher(), requestId: 'a1b2c3' };
    expect(() => failing(why)(asked, ...where())).toThrow(why);
    expect(why).toMatchObject({ digest: 'a1b2c3' });
    // Going elsewhere is thrown too, by the framework, and stays what it is.
    const redirect = Object.assign(new Error('redirect'), { digest: 'NEXT_REDIRECT' });
    expect(() => failing(redirect)(asked, ...where())).toThrow(redirect);
    expect(redirect.digest).toBe('NEXT_REDIRECT');
  });

  it('later does so too', async () => {
    const why = new Error('no such file');
    const later = query({ admits: toBank('bank.see'), does: () => Promise.reject(why) });
    await expect(later({ ...teacher(), requestId: 'd4' }, ...where())).rejects.toBe(why);
    expect(why).toMatchObject({ digest: 'd4' });
  });
});

describe('a correction of another course', () => {
  it('is not withdrawn by its teacher, by whatever course they come', () => {
    school.questions(1);
    const sittingId = school.sitting(school.exam([school.draw(1)]));
    const { attemptId, slotIds } = takePaper(school, sittingId, school.students[0] as never, []);
    const slotId = slotIds[0] as string;
    must(reportQuestion(school.as(school.students[0] as never, 20 * minute), attemptId, slotId, 'Odd.'));
    const versionId = school.db.select().from(paperSlot).where(eq(paperSlot.id, slotId)).get()?.versionId ?? '';
    must(correct(teacher(), school.courseId, sittingId, versionId, 'Read otherwise.'));
    const one = () => school.db.select().from(correction).get();
    const other = school.as(school.elsewhere.teacher, minute);
    for (const courseId of [school.elsewhere.courseId, school.courseId])
      expect(refusal(withdrawCorrection(other, courseId, sittingId, one()?.id ?? ''))).toBe('not-found');
    expect(one()?.withdrawnAt).toBeNull();
    must(withdrawCorrection(teacher(), school.courseId, sittingId, one()?.id ?? ''));
    expect(one()?.withdrawnAt).not.toBeNull();
  });
});
