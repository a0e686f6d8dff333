import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { hour, minute } from '@/core/base/time';
import { attempt, attemptEvent, audit, mark, membership, outbox, paperSlot, sittingNote } from '@/db/schema';
import { handInExpired } from '../attempt/endAttempt';
import { handIn, seeReceipt } from '../attempt/handIn';
import { saveResponses } from '../attempt/saveResponses';
import { startAttempt } from '../attempt/startAttempt';
import { lookAtPulse, openForWriting, type Pulse, pulse } from '../attempt/takeAttempt';
import { watchAttempt } from '../attempt/watchAttempt';
import type { Actor } from '../house/context';
import { giveMark } from '../marking/giveMark';
import { markingQueue } from '../marking/markingQueue';
import { begins, must, refusal, School, writtenContent } from '../testing/school';
import { addNote, addTime, handInFor, letThrough, reopen, restoreAttempt, voidAttempt } from './invigilate';
import { seeRoom } from './room';
import { roomLog } from './roomLog';
import { watchRoom } from './watchRoom';

let school: School;
let sittingId: string;
const teacher = (later = 5 * minute) => school.as(school.teacher, later);
const student = (i = 0) => school.students[i] as Actor;
const start = (i = 0, later = minute) => must(startAttempt(school.as(student(i), later), sittingId)).attemptId;
const slotsOf = (attemptId: string) =>
  school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).orderBy(paperSlot.position).all();
const rowOf = (attemptId: string) => school.db.select().from(attempt).where(eq(attempt.id, attemptId)).get();
const save = (
  attemptId: string,
  i: number,
  place: number,
  later: number,
  value: unknown = { picked: 'x' },
  sequence = place + 1,
) => {
  const epoch = rowOf(attemptId)?.writerEpoch ?? 0;
  const slotId = slotsOf(attemptId)[place]?.id ?? '';
  return saveResponses(school.db, [
    { context: school.as(student(i), later), save: { attemptId, slotId, epoch, sequence, value, comeBack: false } },
  ])[0] as ReturnType<typeof saveResponses>[number];
};
const deadline = (attemptId: string, i = 0, later = 5 * minute) =>
  deadlineIn(must(lookAtPulse(school.as(student(i), later), attemptId, 1)));
const deadlineIn = ({ standing }: Pulse) => ('deadline' in standing ? standing.deadline : null);
const reopenAt = (attemptId: string, later: number, minutes = 0, reason = 'the fire alarm') =>
  reopen(teacher(later), school.courseId, sittingId, attemptId, { minutes, reason });

beforeEach(() => {
  school = new School(3);
  school.questions(4);
  sittingId = school.sitting(school.exam([school.draw(3)]));
});

describe('the room', () => {
  it('shows who has not come, who has opened it, who writes and how far, and who has ended', () => {
    const [a, b] = [start(0), start(1)];
    must(openForWriting(school.as(student(0), minute), a));
    must(openForWriting(school.as(student(1), minute), b));
    must(save(a, 0, 0, 2 * minute));
    must(save(a, 0, 2, 2 * minute));
    must(handIn(school.as(student(1), 3 * minute), b));
    const { rows } = must(seeRoom(teacher(), school.courseId, sittingId));
    expect(
      rows.map((row) => [row.name, row.attempt?.phase, row.attempt?.answered, row.attempt?.signs[0]?.[1]]),
    ).toEqual([
      ['Student 1', 'running', 2, 'a.a'],
      ['Student 2', 'handed-in', 0, '...'],
      ['Student 3', undefined, undefined, undefined],
    ]);
    expect(rows[0]?.attempt?.deadline).toBe(begins + minute + hour);
    expect(rows[1]?.whyNot).toBe('All attempts are used.');
  });

  it('is told anew only to who may still see it', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout'] });
    try {
      const looks: number[] = [];
      let ended = 0;
      const stop = must(watchRoom(teacher(), school.courseId, sittingId))(
        ({ rows }) => looks.push(rows.length),
        () => {
          ended += 1;
        },
      );
      must(addNote(teacher(), school.courseId, sittingId, { kind: 'incident', text: 'All quiet.', userId: null }));
      vi.runAllTimers();
      expect(looks.length).toBe(2);
      school.db.update(membership).set({ removedAt: begins }).where(eq(membership.userId, school.teacher.userId)).run();
      start();
      vi.runAllTimers();
      expect([looks.length, ended]).toEqual([2, 1]);
      stop();
    } finally {
      vi.useRealTimers();
    }
  });

  it('is the instructor’s alone', () => {
    for (const who of [school.marker, student()])
      expect(refusal(seeRoom(school.as(who), school.courseId, sittingId))).toBe('not-allowed');
    expect(refusal(seeRoom(school.as(school.elsewhere.teacher), school.elsewhere.courseId, sittingId))).toBe(
      'not-found',
    );
  });
});

describe('more time', () => {
  it('moves the deadline of one, some or all who are writing, and open pages hear of it', () => {
    const [a, b] = [start(0), start(1)];
    const seen: (number | null)[] = [];
    const stop = must(watchAttempt(school.as(student(0), minute), a, 1))((pulse) => seen.push(deadlineIn(pulse)));
    expect(must(addTime(teacher(), school.courseId, sittingId, [a], 10))).toEqual({ given: 1 });
    expect([deadline(a), deadline(b, 1)]).toEqual([begins + 71 * minute, begins + 61 * minute]);
    expect(must(addTime(teacher(), school.courseId, sittingId, null, 5))).toEqual({ given: 2 });
    expect([deadline(a), deadline(b, 1)]).toEqual([begins + 76 * minute, begins + 66 * minute]);
    return new Promise<void>((resolve) => setImmediate(resolve)).then(() => {
      stop();
      expect(seen).toEqual([begins + 61 * minute, begins + 76 * minute]);
      expect(school.db.select().from(attemptEvent).where(eq(attemptEvent.kind, 'time-added')).all()).toHaveLength(3);
    });
  });

  it('is refused without a number, to nobody, and once the time is over', () => {
    expect(refusal(addTime(teacher(), school.courseId, sittingId, null, 5))).toBe('conflict');
    const a = start();
    for (const minutes of [0, -5, Number.NaN, 100_000])
      expect(refusal(addTime(teacher(), school.courseId, sittingId, [a], minutes))).toBe('bad-input');
    expect(refusal(addTime(teacher(62 * minute), school.courseId, sittingId, [a], 5))).toBe('conflict');
    handInExpired({ db: school.db, now: begins + 62 * minute });
    expect(rowOf(a)).toMatchObject({ state: 'handed-in', endedBy: 'clock', endedAt: begins + 61 * minute });
  });
});

describe('handing in for someone', () => {
  it('ends the attempt now, once, with its marks; the student finds a receipt', () => {
    const a = start();
    must(openForWriting(school.as(student(), minute), a));
    must(save(a, 0, 0, 2 * minute));
    must(handInFor(teacher(), school.courseId, sittingId, a));
    expect(rowOf(a)).toMatchObject({ state: 'handed-in', endedBy: 'invigilator', endedAt: begins + 5 * minute });
    expect(refusal(handInFor(teacher(), school.courseId, sittingId, a))).toBe('conflict');
    expect(refusal(save(a, 0, 1, 6 * minute))).toBe('too-late');
    expect(must(seeReceipt(school.as(student(), 6 * minute), a)).standing).toMatchObject({ by: 'invigilator' });
    expect(school.db.select().from(mark).all()).toHaveLength(3);
  });
});

describe('opening again', () => {
  it('gives back the time it was closed for, and keeps every answer', () => {
    const a = start();
    must(openForWriting(school.as(student(), minute), a));
    must(save(a, 0, 0, 2 * minute));
    must(handIn(school.as(student(), 21 * minute), a));
    // 40 minutes were left; an hour later they are left again.
    must(reopenAt(a, 81 * minute));
    expect(deadline(a, 0, 81 * minute)).toBe(begins + 121 * minute);
    const opened = must(openForWriting(school.as(student(), 82 * minute), a));
    expect(opened.answers).toHaveLength(1);
    must(save(a, 0, 1, 83 * minute, { picked: 'y' }, 1));
    must(handIn(school.as(student(), 84 * minute), a));
    // What did not change keeps its mark, what did has another.
    const marks = school.db.select().from(mark).all();
    expect(marks.filter((one) => !one.outdated)).toHaveLength(3);
    expect(marks).toHaveLength(4);
  });

  it('needs a reason, and minutes where none are left', () => {
    const a = start();
    handInExpired({ db: school.db, now: begins + 2 * hour });
    expect(refusal(reopenAt(a, 2 * hour, 10, ' '))).toBe('bad-input');
    expect(refusal(reopenAt(a, 2 * hour, 0))).toBe('bad-input');
    must(reopenAt(a, 2 * hour, 10));
    expect(deadline(a, 0, 2 * hour)).toBe(begins + 2 * hour + 10 * minute);
    expect(refusal(reopenAt(a, 2 * hour, 10))).toBe('conflict');
  });

  it('is not possible while the student writes another attempt', () => {
    sittingId = school.sitting(school.exam([school.draw(2)]), { attemptsAllowed: 2 });
    const a = start(0, minute);
    must(handIn(school.as(student(), 2 * minute), a));
    start(0, 3 * minute);
    expect(refusal(reopenAt(a, 5 * minute))).toBe('conflict');
  });

  it('lets an answer that was marked by hand wait again only where it changed', () => {
    const written = [school.question(writtenContent('one')), school.question(writtenContent('two'))];
    sittingId = school.sitting(school.exam(written.map((id) => school.fixed(id, 5))));
    const a = start();
    must(openForWriting(school.as(student(), minute), a));
    must(save(a, 0, 0, 2 * minute, { text: 'first' }, 1));
    must(save(a, 0, 1, 2 * minute, { text: 'second' }, 2));
    must(handIn(school.as(student(), 3 * minute), a));
    for (const slot of slotsOf(a))
      must(
        giveMark(teacher(10 * minute), school.courseId, slot.id, { points: 4, comment: '', revision: 1, before: null }),
      );
    must(reopenAt(a, 20 * minute));
    must(openForWriting(school.as(student(), 21 * minute), a));
    must(save(a, 0, 1, 22 * minute, { text: 'second, mended' }, 1));
    must(handIn(school.as(student(), 23 * minute), a));
    const waiting = must(markingQueue(teacher(24 * minute), school.courseId)).filter(
      (row) => row.sittingId === sittingId,
    );
    expect(waiting.map((row) => [row.waiting, row.marked]).sort()).toEqual([
      [0, 1],
      [1, 0],
    ]);
  });
});

describe('voiding', () => {
  it('takes an attempt out of everything, lets its student begin anew, and can be taken back', () => {
    const a = start();
    must(handIn(school.as(student(), 2 * minute), a));
    expect(refusal(voidAttempt(teacher(), school.courseId, sittingId, a, ''))).toBe('bad-input');
    must(voidAttempt(teacher(), school.courseId, sittingId, a, 'the wrong room'));
    expect(refusal(voidAttempt(teacher(), school.courseId, sittingId, a, 'twice'))).toBe('conflict');
    must(restoreAttempt(teacher(), school.courseId, sittingId, a));
    expect(rowOf(a)).toMatchObject({ state: 'handed-in', stateBefore: null });
    must(voidAttempt(teacher(), school.courseId, sittingId, a, 'the wrong room'));
    expect(must(startAttempt(school.as(student(), 6 * minute), sittingId)).attemptId).not.toBe(a);
  });

  it('of a running attempt is taken back with the time it took given back, and its student is told, unless another runs meanwhile', () => {
    const a = start();
    must(voidAttempt(teacher(2 * minute), school.courseId, sittingId, a, 'a mistake'));
    must(restoreAttempt(teacher(3 * minute), school.courseId, sittingId, a));
    expect(deadline(a)).toBe(begins + 62 * minute);
    expect(
      school.db
        .select()
        .from(outbox)
        .all()
        .map((one) => one.subject)
        .slice(-2),
    ).toEqual(['Sitting: your attempt was voided', 'Sitting: the voiding was taken back']);
    must(voidAttempt(teacher(4 * minute), school.courseId, sittingId, a, 'again'));
    start(0, 5 * minute);
    expect(refusal(restoreAttempt(teacher(6 * minute), school.courseId, sittingId, a))).toBe('conflict');
  });
});

it('a student is let through to the next attempt, one at a time', () => {
  sittingId = school.sitting(school.exam([school.draw(1)]), {
    attemptsAllowed: null,
    further: { between: { kind: 'let-through' } },
  });
  must(handIn(school.as(student(), 2 * minute), start()));
  expect(refusal(startAttempt(school.as(student(), 3 * minute), sittingId))).toBe('too-early');
  expect(must(seeRoom(teacher(), school.courseId, sittingId)).rows[0]?.waitsToBeLetThrough).toBe(true);
  must(letThrough(teacher(), school.courseId, sittingId, student().userId));
  must(handIn(school.as(student(), 7 * minute), start(0, 6 * minute)));
  expect(refusal(startAttempt(school.as(student(), 8 * minute), sittingId))).toBe('too-early');
});

describe('notes', () => {
  it('to the room reach every page that is open, a message to one only theirs, an incident nobody', () => {
    const [a, b] = [start(0), start(1)];
    const note = (kind: 'message' | 'incident', userId: string | null, text: string) =>
      must(addNote(teacher(2 * minute), school.courseId, sittingId, { kind, userId, text }));
    note('message', null, 'Ten minutes more for all');
    note('message', student(1).userId, 'Your phone, please');
    note('incident', student(1).userId, 'had a phone on the table');
    const told = (id: string, i: number) =>
      must(pulse(school.as(student(i), 3 * minute), id, 0)).notices.map((one) => one.text);
    expect(told(a, 0)).toEqual(['Ten minutes more for all']);
    expect(told(b, 1)).toEqual(['Ten minutes more for all', 'Your phone, please']);
    expect(school.db.select().from(sittingNote).all()).toHaveLength(3);
  });

  it('are refused empty, too long, or about somebody else', () => {
    const add = (text: string, userId: string | null = null) =>
      refusal(addNote(teacher(), school.courseId, sittingId, { kind: 'incident', userId, text }));
    expect([add(' '), add('x'.repeat(1_001)), add('about whom?', school.marker.userId)]).toEqual([
      'bad-input',
      'bad-input',
      'not-found',
    ]);
  });
});

it('everything that was done stands in the log with who did it and why, and in the audit', () => {
  const a = start();
  must(addTime(teacher(), school.courseId, sittingId, [a], 10));
  must(handInFor(teacher(6 * minute), school.courseId, sittingId, a));
  must(reopenAt(a, 7 * minute, 5, 'pressed too early'));
  must(
    addNote(teacher(8 * minute), school.courseId, sittingId, {
      kind: 'incident',
      userId: null,
      text: 'The light went out',
    }),
  );
  const log = must(roomLog(teacher(9 * minute), school.courseId, sittingId));
  expect(log.map((line) => [line.kind, line.about, line.by, line.what])).toEqual([
    ['incident', null, 'Tove Teacher', 'The light went out'],
    ['event', 'Student 1', 'Tove Teacher', 'was opened again: 5 min — pressed too early'],
    ['event', 'Student 1', 'Tove Teacher', 'handed in for them'],
    ['event', 'Student 1', 'Tove Teacher', 'was given more time: 10 min'],
    ['event', 'Student 1', null, 'started'],
  ]);
  const actions = school.db
    .select()
    .from(audit)
    .where(eq(audit.subjectId, sittingId))
    .all()
    .map((row) => row.action);
  expect(actions).toEqual(
    expect.arrayContaining(['sitting.add-time', 'attempt.hand-in-for', 'attempt.reopen', 'sitting.incident']),
  );
});
