import { and, eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { hour, minute, second } from '@/core/base/time';
import { attemptEvent, paperSlot, sittingNote } from '@/db/schema';
import { handInExpired } from '../attempt/endAttempt';
import { handIn, seeReceipt } from '../attempt/handIn';
import { type SaveInput, saveResponses } from '../attempt/saveResponses';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import { desk } from '../desk/desk';
import { myExams } from '../desk/myExams';
import { waitingInSitting } from '../records/waiting';
import { sittingResults } from '../release/results';
import { begins, must, refusal, School } from '../testing/school';
import { decideAside, seeKeptAside } from './asideAnswers';
import { addNote, beforeReopening, reopen, settleIncident } from './invigilate';
import { questionsOnPapers, reportQuestion, seeReports } from './reportedQuestions';
import { seeRoom } from './room';

let school: School;
let sittingId: string;
const student = () => school.students[0] as School['teacher'];
const at = (later: number) => school.as(student(), later);
const teacher = (later = 2 * hour) => school.as(school.teacher, later);

function writing(change: Record<string, unknown> = {}) {
  sittingId = school.sitting(school.exam([school.draw(3)]), change);
  const { attemptId } = must(startAttempt(at(minute), sittingId));
  const { epoch } = must(openForWriting(at(minute), attemptId));
  const slots = school.db
    .select()
    .from(paperSlot)
    .where(eq(paperSlot.attemptId, attemptId))
    .orderBy(paperSlot.position)
    .all();
  let sequence = 0;
  const save = (place: number, picked: string, later: number, more: Partial<SaveInput> = {}) => {
    sequence += 1;
    const slotId = slots[place]?.id ?? '';
    const given = { attemptId, slotId, epoch, sequence, value: { picked }, comeBack: false, givenAt: begins + later };
    return saveResponses(school.db, [{ context: at(later), save: { ...given, ...more } }])[0];
  };
  return { attemptId, slots, save, epoch };
}

beforeEach(() => {
  school = new School(2);
  school.questions(3);
});

describe('what waits for a decision', () => {
  it('is counted in the room, on the desk, with the results, and told to the student: of each question the newest', () => {
    const { attemptId, slots, save } = writing();
    must(save(0, 'a', 2 * minute) as never);
    must(handIn(at(3 * minute), attemptId));
    expect(save(0, 'b', 4 * minute, { givenAt: begins + 2.5 * minute })?.ok).toBe(false);
    expect(save(0, 'c', 5 * minute)?.ok).toBe(false);
    // What is as it counts anyway, is nothing to decide about.
    expect(save(1, 'd', 5 * minute, { value: null })?.ok).toBe(false);
    must(reportQuestion(at(6 * minute), attemptId, slots[0]?.id ?? '', 'Two are the same.'));
    // "Two" means two of this paper: its choices stand beside the report, in its order and with its letters.
    const [reported] = must(seeReports(teacher(), school.courseId, sittingId));
    const texts = { c0: 'right', c1: 'wrong 1', c2: 'wrong 2', c3: 'wrong 3' } as Record<string, string>;
    const order = (slots[0]?.presentation.choices ?? []).map(({ id }, i) => `${'ABCD'[i]} ${texts[id]}`);
    expect(order).toHaveLength(4);
    expect(reported?.reports[0]?.choices).toEqual(order);
    must(addNote(teacher(), school.courseId, sittingId, { kind: 'incident', userId: null, text: 'The fire alarm.' }));
    must(addNote(teacher(), school.courseId, sittingId, { kind: 'message', userId: null, text: 'Go on.' }));
    const waiting = { asides: 1, asidesOf: [student().userId], reports: 1, incidents: 1, differences: 0, sheets: 0 };
    expect(waitingInSitting(school.db, sittingId)).toEqual(waiting);
    const room = must(seeRoom(teacher(), school.courseId, sittingId));
    expect([room.waiting, room.rows[0]?.aside]).toEqual([waiting, 1]);
    // Each kind with the one place where it is decided.
    expect(must(desk(teacher(), school.courseId)).decisions.map((one) => [one.count, one.says, one.path])).toEqual([
      [2, '1 answer kept aside, of 1 student; 1 incident', `/sittings/${sittingId}/room`],
      [1, '1 report on a question', `/sittings/${sittingId}/reports`],
    ]);
    const results = must(sittingResults(teacher(), school.courseId, sittingId));
    expect([results.waiting, results.waitingNames]).toEqual([waiting, ['Student 1']]);
    expect(myExams(at(2 * hour))[0]?.attempt).toMatchObject({
      standing: { kind: 'handed-in', by: 'student' },
      aside: '1 answer of yours is kept aside: your instructor decides about it.',
    });
    // Given in time and too late: both are shown, and what is taken decides the other.
    const kept = must(seeKeptAside(teacher(), school.courseId, sittingId, student().userId));
    expect(kept.map(({ number, inTime }) => [number, inTime])).toEqual([
      [1, true],
      [1, false],
    ]);
    const { slotId, epoch, sequence } = kept[0] ?? { slotId: '', epoch: 0, sequence: 0 };
    must(decideAside(teacher(), school.courseId, sittingId, { slotId, epoch, sequence }, true));
    expect(must(seeKeptAside(teacher(), school.courseId, sittingId, student().userId))).toEqual([]);
    const [note] = school.db.select().from(sittingNote).where(eq(sittingNote.kind, 'incident')).all();
    must(settleIncident(teacher(), school.courseId, sittingId, note?.id ?? 0));
    expect(waitingInSitting(school.db, sittingId)).toEqual({
      asides: 0,
      asidesOf: [],
      reports: 1,
      incidents: 0,
      differences: 0,
      sheets: 0,
    });
    const message = school.db.select().from(sittingNote).where(eq(sittingNote.kind, 'message')).get();
    expect(refusal(settleIncident(teacher(), school.courseId, sittingId, message?.id ?? 0))).toBe('not-found');
  });

  it('a hand-in that comes after the grace is written down once, for whoever invigilates', () => {
    const { attemptId } = writing({ further: { expiry: { kind: 'grace', minutes: 2 } } });
    handInExpired({ db: school.db, now: begins + 64 * minute });
    const pressedAt = begins + 62 * minute;
    for (const later of [70, 71])
      expect(must(handIn(at(later * minute), attemptId, { pressedAt })).standing.kind).toBe('not-handed-in');
    const notes = school.db.select().from(sittingNote).all();
    expect(notes.map((one) => one.text)).toEqual([
      'Student 1’s hand-in came after the time allowed for it; by the browser’s clock it was pressed 11:02:00. It can be counted as handed in.',
    ]);
    expect(
      school.db
        .select()
        .from(attemptEvent)
        .where(and(eq(attemptEvent.attemptId, attemptId), eq(attemptEvent.kind, 'late-hand-in')))
        .all(),
    ).toHaveLength(1);
    expect(must(seeReceipt(at(72 * minute), attemptId)).standing.kind).toBe('not-handed-in');
  });

  it('what was pressed before an attempt was opened again hands nothing in, nor does an older window', () => {
    const { attemptId, epoch } = writing();
    must(handIn(at(2 * minute), attemptId));
    must(reopen(teacher(10 * minute), school.courseId, sittingId, attemptId, { minutes: 5, reason: 'the alarm' }));
    expect(refusal(handIn(at(11 * minute), attemptId, { pressedAt: begins + 9 * minute }))).toBe('conflict');
    must(openForWriting(at(11 * minute), attemptId));
    expect(refusal(handIn(at(12 * minute), attemptId, { epoch }))).toBe('superseded');
    expect(refusal(handIn(at(12 * minute), attemptId, { byClock: true }))).toBe('too-early');
    expect(must(handIn(at(12 * minute), attemptId, { epoch: epoch + 1 })).standing.kind).toBe('handed-in');
  });

  it('before an attempt is opened again it is said what its student sees of the keys', () => {
    const { attemptId } = writing({
      releasePlan: {
        score: [{ begins: { kind: 'on-hand-in' } }],
        questions: [{ begins: { kind: 'on-hand-in' } }],
        'right-answers': [{ begins: { kind: 'on-hand-in' } }],
      },
    });
    must(handIn(at(2 * minute), attemptId));
    const seen = () => must(beforeReopening(teacher(3 * hour), school.courseId, sittingId, attemptId));
    expect(seen().lookedAt).toBeNull();
    expect(['right-answers']).toEqual(expect.arrayContaining(seen().shown));
  });

  it('any question on papers of the sitting can be found, with how many hold it', () => {
    writing();
    const all = must(questionsOnPapers(teacher(), school.courseId, sittingId));
    expect(all.map(({ name, papers }) => [name, papers])).toEqual([
      ['stem 1', 1],
      ['stem 2', 1],
      ['stem 3', 1],
    ]);
  });
});

it('an answer given in time to a question with a time of its own is kept and told as such, when it comes after it', () => {
  const examId = school.exam([{ ...school.draw(2), minutes: 3 }]);
  sittingId = school.sitting(examId);
  const { attemptId } = must(startAttempt(at(minute), sittingId));
  const { epoch } = must(openForWriting(at(minute), attemptId));
  const [slot] = school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).all();
  school.db
    .update(paperSlot)
    .set({ openedAt: begins + 2 * minute })
    .where(eq(paperSlot.id, slot?.id ?? ''))
    .run();
  const save = { attemptId, slotId: slot?.id ?? '', epoch, sequence: 1, value: { picked: 'x' }, comeBack: false };
  const context = at(5 * minute + 4 * second);
  expect(saveResponses(school.db, [{ context, save: { ...save, givenAt: begins + 4 * minute } }])[0]?.ok).toBe(false);
  expect(must(seeReceipt(at(6 * minute), attemptId)).asides).toMatchObject([
    { number: (slot?.position ?? 0) + 1, reason: 'question-over', inTime: true, decision: null },
  ]);
  expect(waitingInSitting(school.db, sittingId).asides).toBe(1);
});
