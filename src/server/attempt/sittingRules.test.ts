import { and, eq, like } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { localFromInstant } from '@/core/base/localTime';
import { richFromText } from '@/core/base/rich';
import { hour, minute, second } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import {
  attempt,
  attemptEvent,
  audit,
  mark,
  membership,
  outbox,
  paperSlot,
  response,
  responseAside,
} from '@/db/schema';
import { beforeStart, myExams } from '../desk/myExams';
import type { Actor, Context } from '../house/context';
import { removePerson } from '../people/leaving';
import { decideAside, seeKeptAside } from '../room/asideAnswers';
import { reportQuestion } from '../room/reportedQuestions';
import { arrange } from '../sitting/arrange';
import { begins, choiceContent, must, refusal, School, writtenContent } from '../testing/school';
import { undoChange } from '../undoChange';
import { checkQuestion, takeAgain } from './checkQuestion';
import { handInExpired } from './endAttempt';
import { handIn, seeReceipt } from './handIn';
import { goOnward } from './onward';
import { saveResponses } from './saveResponses';
import { startAttempt } from './startAttempt';
import { lookAtPulse, mayGoOn, openForWriting, openTimedQuestion } from './takeAttempt';

let school: School;
let student: Actor;
const teacher = (later = 5 * minute) => school.as(school.teacher, later);
const at = (later: number, address?: string): Context => ({
  ...school.as(student, later),
  ...(address ? { address } : {}),
});
const slotsOf = (attemptId: string) =>
  school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).orderBy(paperSlot.position).all();
const refusals = () => school.db.select().from(audit).where(like(audit.action, 'refused.%')).all();

/** A student at their paper: opens it, answers and checks by place. */
function writing(sittingId: string, later = minute, code = '') {
  const { attemptId } = must(startAttempt(at(later), sittingId, code));
  const { epoch } = must(openForWriting(at(later), attemptId));
  let sequence = 0;
  const slots = slotsOf(attemptId);
  const slot = (place: number) => slots[place]?.id ?? '';
  const save = (place: number, value: unknown, when: number, more: object = {}) => {
    sequence += 1;
    const one = { attemptId, slotId: slot(place), epoch, sequence, value, comeBack: false, ...more };
    return saveResponses(school.db, [{ context: at(when), save: one }])[0] as ReturnType<typeof saveResponses>[number];
  };
  return {
    attemptId,
    slots,
    slot,
    save,
    check: (place: number, when: number) => checkQuestion(at(when), attemptId, slot(place)),
  };
}
const numeric = (stem: string, hint = ''): QuestionContent => ({
  type: 'numeric',
  stem: richFromText(stem),
  feedback: {
    right: richFromText('well done'),
    wrong: richFromText('look again'),
    ...(hint ? { hint: richFromText(hint) } : {}),
  },
  accepted: [{ value: '7', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
});
const points = (slotId: string) =>
  school.db
    .select()
    .from(mark)
    .where(and(eq(mark.slotId, slotId), eq(mark.outdated, false)))
    .get()?.points;

beforeEach(() => {
  school = new School(2);
  student = school.students[0] as Actor;
});

describe('entry', () => {
  const give = (further: object) => {
    school.questions(2);
    return school.sitting(school.exam([school.draw(1)]), { further });
  };

  it('by a code is compared without capitals and spaces; fifty wrong ones are refused, slowed down and logged', () => {
    const sittingId = give({ entryCode: 'North Sea 7' });
    expect(myExams(at(minute))[0]?.needsCode).toBe(true);
    expect(JSON.stringify([myExams(at(minute)), must(beforeStart(at(minute), sittingId))])).not.toContain('North');
    const codes = Array.from({ length: 50 }, (_, i) =>
      refusal(startAttempt(at(minute + i * second), sittingId, `guess ${i}`)),
    );
    expect(codes.slice(0, 10)).toEqual(Array(10).fill('not-allowed'));
    expect(codes.slice(10)).toEqual(Array(40).fill('busy'));
    // The right one is no way round the wait.
    expect(refusal(startAttempt(at(2 * minute), sittingId, 'north sea 7'))).toBe('busy');
    expect(must(startAttempt(at(15 * minute), sittingId, ' northsea7 '))).toHaveProperty('attemptId');
    expect(refusals().map((row) => [row.action, row.actorId, row.subjectId])).toContainEqual([
      'refused.entry.code',
      student.userId,
      sittingId,
    ]);
    expect(school.db.select().from(attempt).all()).toHaveLength(1);
  });

  it('from outside the networks is refused and logged: at the start, at every opening and at every save', () => {
    const sittingId = give({ networks: ['10.1.0.0/16'] });
    expect(refusal(startAttempt(at(minute, '192.168.1.5'), sittingId))).toBe('not-allowed');
    expect(refusal(startAttempt(at(minute), sittingId))).toBe('not-allowed');
    const { attemptId } = must(startAttempt(at(2 * minute, '10.1.2.3'), sittingId));
    const { epoch } = must(openForWriting(at(2 * minute, '10.1.2.3'), attemptId));
    expect(refusal(openForWriting(at(3 * minute, '8.8.8.8'), attemptId))).toBe('not-allowed');
    const slotId = slotsOf(attemptId)[0]?.id ?? '';
    const save = (address: string, sequence: number) =>
      saveResponses(school.db, [
        {
          context: at(4 * minute, address),
          save: { attemptId, slotId, epoch, sequence, value: { picked: 'x' }, comeBack: false },
        },
      ])[0] as ReturnType<typeof saveResponses>[number];
    expect(refusal(save('8.8.8.8', 1))).toBe('not-allowed');
    expect(school.db.select().from(response).all()).toHaveLength(0);
    must(save('10.1.2.3', 2));
    expect(refusals()[0]?.detail).toMatchObject({ address: '192.168.1.5' });
  });

  it('from outside the networks nothing of a running attempt is shown or taken; what has ended is', () => {
    const sittingId = give({ networks: ['10.1.0.0/16'] });
    const inside = (later: number) => at(later, '10.1.2.3');
    const { attemptId } = must(startAttempt(inside(minute), sittingId));
    const slotId = slotsOf(attemptId)[0]?.id ?? '';
    const outside = at(2 * minute, '8.8.8.8');
    for (const asked of [
      openForWriting(outside, attemptId),
      openTimedQuestion(outside, attemptId, slotId),
      lookAtPulse(outside, attemptId, 1),
      checkQuestion(outside, attemptId, slotId),
      goOnward(outside, attemptId, 1),
      reportQuestion(outside, attemptId, slotId, 'Nothing is right.'),
      handIn(outside, attemptId),
    ])
      expect(refusal(asked)).toBe('not-allowed');
    // That it can be gone on with is said, so that the page can say where.
    must(mayGoOn(outside, attemptId));
    must(handIn(inside(3 * minute), attemptId));
    must(seeReceipt(at(4 * minute, '8.8.8.8'), attemptId));
  });

  it('is over for a student who has been taken out: nothing is opened, taken or handed in until they are back', () => {
    const { attemptId, save } = writing(give({}));
    must(save(0, { picked: 'x' }, 2 * minute));
    const row = school.db.select().from(membership).where(eq(membership.userId, student.userId)).get();
    const { auditId } = must(removePerson(teacher(), school.courseId, row?.id ?? ''));
    for (const asked of [
      openForWriting(at(6 * minute), attemptId),
      save(0, { picked: 'y' }, 6 * minute),
      handIn(at(6 * minute), attemptId),
    ])
      expect(refusal(asked)).toBe('not-allowed');
    must(undoChange(teacher(7 * minute), school.courseId, auditId));
    must(save(0, { picked: 'z' }, 8 * minute));
    must(handIn(at(9 * minute), attemptId));
  });

  it('an arrangement has a code and networks of its own', () => {
    const sittingId = give({ entryCode: 'room', networks: ['10.1.0.0/16'] });
    const nothing = { extraPercent: 0, extraMinutes: 0, extraAttempts: 0, excused: false };
    must(
      arrange(teacher(), school.courseId, sittingId, student.userId, {
        ...nothing,
        entryCode: 'at home',
        networks: ['84.0.0.0/8'],
      }),
    );
    expect(refusal(startAttempt(at(6 * minute, '84.1.1.1'), sittingId, 'room'))).toBe('not-allowed');
    must(startAttempt(at(6 * minute, '84.1.1.1'), sittingId, 'at home'));
  });
});

describe('between attempts', () => {
  it('a wait runs from the hand-in, and My exams says until when', () => {
    school.questions(2);
    const sittingId = school.sitting(school.exam([school.draw(1)]), {
      attemptsAllowed: 3,
      further: { between: { kind: 'wait', minutes: [200] } },
    });
    const first = writing(sittingId);
    must(handIn(at(10 * minute), first.attemptId));
    expect(refusal(startAttempt(at(11 * minute), sittingId))).toBe('too-early');
    const [exam] = myExams(at(10 * minute));
    expect(exam).toMatchObject({ group: 'coming', startsAt: begins + 210 * minute });
    expect(exam?.refusal).toMatch(/^Next attempt in 3 h 20 min/);
    must(startAttempt(at(210 * minute), sittingId));
  });

  it('the next one can go on with the same paper and a copy of the answers; the earlier one keeps its own', () => {
    school.questions(6);
    const sittingId = school.sitting(school.exam([school.draw(3)]), {
      attemptsAllowed: 2,
      further: { nextPaper: 'same' },
    });
    const first = writing(sittingId);
    must(first.save(0, { picked: 'x' }, 2 * minute));
    must(handIn(at(3 * minute), first.attemptId));
    const second = writing(sittingId, 4 * minute);
    expect(second.slots.map((one) => [one.versionId, one.presentation, one.points])).toEqual(
      first.slots.map((one) => [one.versionId, one.presentation, one.points]),
    );
    const opened = must(openForWriting(at(5 * minute), second.attemptId));
    expect(opened.answers.map((one) => one.value)).toEqual([{ picked: 'x' }]);
    expect(second.slots.some((one) => first.slots.some((other) => other.id === one.id))).toBe(false);
  });
});

describe('when the time is over with a grace', () => {
  const give = () => {
    school.questions(2);
    return school.sitting(school.exam([school.draw(2)]), { further: { expiry: { kind: 'grace', minutes: 2 } } });
  };

  it('nothing more is taken, but the hand-in is, stamped with the deadline', () => {
    const paper = writing(give());
    must(paper.save(0, { picked: 'x' }, 2 * minute));
    expect(refusal(paper.save(1, { picked: 'y' }, 61 * minute + 4 * second))).toBe('too-late');
    handInExpired({ db: school.db, now: begins + 62 * minute });
    expect(must(handIn(at(63 * minute), paper.attemptId))).toMatchObject({
      standing: { kind: 'handed-in', by: 'student', at: begins + 61 * minute },
      answers: { answered: 1 },
      asides: [{ number: 2, reason: 'late' }],
    });
  });

  it('without a hand-in the attempt is kept and does not count', () => {
    const paper = writing(give());
    must(paper.save(0, { picked: 'x' }, 2 * minute));
    handInExpired({ db: school.db, now: begins + 63 * minute + 3 * second });
    expect(school.db.select().from(attempt).get()?.state).toBe('running');
    handInExpired({ db: school.db, now: begins + 63 * minute + 4 * second });
    expect(school.db.select().from(attempt).get()).toMatchObject({
      state: 'not-handed-in',
      endedAt: begins + 61 * minute,
    });
    expect(school.db.select().from(mark).all()).toHaveLength(0);
    expect(must(seeReceipt(at(2 * hour), paper.attemptId)).standing.kind).toBe('not-handed-in');
    expect(refusal(startAttempt(at(2 * hour), school.db.select().from(attempt).get()?.sittingId ?? ''))).toBe(
      'too-late',
    );
    expect(school.db.select().from(response).all()).toHaveLength(1);
  });
});

describe('onward only', () => {
  it('what lies on a page that was left can no longer be answered, and is kept aside', () => {
    school.questions(3);
    const sittingId = school.sitting(school.exam([school.draw(3)]), { further: { onwardOnly: true } });
    const paper = writing(sittingId);
    must(paper.save(0, { picked: 'x' }, 2 * minute));
    expect(must(goOnward(at(3 * minute), paper.attemptId, 1))).toEqual({ reached: 1 });
    expect(must(goOnward(at(3 * minute), paper.attemptId, 1))).toEqual({ reached: 1 });
    expect(refusal(goOnward(at(3 * minute), paper.attemptId, 0))).toBe('bad-input');
    expect(refusal(goOnward(at(3 * minute), paper.attemptId, 9))).toBe('bad-input');
    expect(refusal(paper.save(0, { picked: 'y' }, 4 * minute))).toBe('bad-input');
    must(paper.save(1, { picked: 'y' }, 4 * minute));
    expect(school.db.select().from(responseAside).all()).toMatchObject([{ reason: 'behind', value: { picked: 'y' } }]);
    expect(must(openForWriting(at(5 * minute), paper.attemptId)).reached).toBe(1);
  });

  it('with a time for each question sends nothing of it before it is opened, and takes nothing after its end', () => {
    school.questions(2);
    const sittingId = school.sitting(school.exam([school.draw(2)]), {
      further: { onwardOnly: true, minutesPerQuestion: 2 },
    });
    const paper = writing(sittingId);
    const opened = must(openForWriting(at(2 * minute), paper.attemptId));
    expect(opened.slots.map((slot) => [slot.view, slot.limit])).toEqual([
      [null, 2 * minute],
      [null, 2 * minute],
    ]);
    expect(JSON.stringify(opened)).not.toContain('stem ');
  });
});

describe('tries', () => {
  const give = (further: object, lines = [school.fixed(school.question(numeric('n', 'think of a week')), 4)]) =>
    school.sitting(school.exam(lines), { further: { learning: 'as-they-go', ...further } });

  it('each further one costs its share; a hint stands between them; the question closes when it is right', () => {
    const paper = writing(give({ tries: { most: 3, cost: 0.25 } }));
    must(paper.save(0, { text: '6' }, 2 * minute));
    expect(must(paper.check(0, 3 * minute))).toMatchObject({
      used: 1,
      closed: false,
      outcome: 'wrong',
      said: richFromText('think of a week'),
    });
    // Asked again about the same answer it counts once.
    expect(must(paper.check(0, 3 * minute)).used).toBe(1);
    must(paper.save(0, { text: '7' }, 4 * minute));
    expect(must(paper.check(0, 5 * minute))).toMatchObject({
      used: 2,
      closed: true,
      outcome: 'right',
      said: null,
      feedback: [{ about: '', said: richFromText('well done') }],
    });
    expect(refusal(paper.save(0, { text: '8' }, 6 * minute))).toBe('bad-input');
    expect(school.db.select().from(responseAside).all()).toMatchObject([{ reason: 'closed' }]);
    must(handIn(at(7 * minute), paper.attemptId));
    expect(points(paper.slot(0))).toBe(3);
  });

  it('what stands there at the hand-in and was not checked counts as one more', () => {
    const paper = writing(give({ tries: { most: 3, cost: 0.5 } }));
    must(paper.save(0, { text: '6' }, 2 * minute));
    must(paper.check(0, 3 * minute));
    must(paper.save(0, { text: '7' }, 4 * minute));
    must(handIn(at(5 * minute), paper.attemptId));
    expect(points(paper.slot(0))).toBe(2);
  });

  it('are used up, and then the question can come again once, for its share', () => {
    const paper = writing(
      give({ missedAgain: { most: 1, credit: 0.5 } }, [
        school.fixed(school.question(numeric('one')), 4),
        school.fixed(school.question(numeric('two')), 4),
      ]),
    );
    for (const place of [0, 1]) {
      must(paper.save(place, { text: '6' }, 2 * minute));
      expect(must(paper.check(place, 3 * minute))).toMatchObject({ closed: true, mayAgain: true });
    }
    expect(must(takeAgain(at(4 * minute), paper.attemptId, paper.slot(0)))).toMatchObject({
      closed: false,
      again: true,
    });
    // Only one may come again.
    expect(refusal(takeAgain(at(4 * minute), paper.attemptId, paper.slot(1)))).toBe('bad-input');
    must(paper.save(0, { text: '7' }, 5 * minute));
    expect(must(paper.check(0, 6 * minute))).toMatchObject({ closed: true, outcome: 'right' });
    must(handIn(at(7 * minute), paper.attemptId));
    expect([points(paper.slot(0)), points(paper.slot(1))]).toEqual([2, 0]);
  });

  it('are refused for an empty answer, a written one, another’s paper, and where nothing is checked before the hand-in', () => {
    const paper = writing(
      give({}, [school.fixed(school.question(numeric('n'))), school.fixed(school.question(writtenContent('w')))]),
    );
    expect(refusal(paper.check(0, 2 * minute))).toBe('bad-input');
    must(paper.save(1, { text: 'an essay' }, 2 * minute));
    expect(refusal(paper.check(1, 3 * minute))).toBe('bad-input');
    const other = school.students[1] as Actor;
    expect(refusal(checkQuestion(school.as(other, 3 * minute), paper.attemptId, paper.slot(0)))).toBe('not-found');
    const plain = writing(school.sitting(school.exam([school.fixed(school.question(numeric('m')))])), 4 * minute);
    must(plain.save(0, { text: '7' }, 5 * minute));
    expect(refusal(plain.check(0, 6 * minute))).toBe('bad-input');
  });

  it('tell nothing of the key before they close the question', () => {
    const paper = writing(give({ tries: { most: 3, cost: 0 } }, [school.fixed(school.question(choiceContent('c')))]));
    // The first choice as it was written is the right one.
    const wrong = paper.slots[0]?.presentation.choices?.find((one) => one.id !== 'c0');
    must(paper.save(0, { picked: wrong?.key }, 2 * minute));
    const checked = must(paper.check(0, 3 * minute));
    expect(checked).toMatchObject({ outcome: 'wrong', closed: false });
    expect(JSON.stringify(checked)).not.toMatch(/solution of|feedback on|"right":/);
  });
});

describe('answers that were kept aside', () => {
  const late = () => {
    school.questions(2);
    const sittingId = school.sitting(school.exam([school.draw(2)]));
    const paper = writing(sittingId);
    must(paper.save(0, { picked: 'x' }, 2 * minute));
    expect(refusal(paper.save(1, { picked: 'y' }, 62 * minute, { givenAt: begins + 60 * minute }))).toBe('too-late');
    handInExpired({ db: school.db, now: begins + 63 * minute });
    return { sittingId, paper };
  };

  it('say what their browser says only where it can be so, and no more of them are kept than people type', () => {
    const { sittingId, paper } = late();
    const kept = () =>
      school.db
        .select()
        .from(responseAside)
        .where(eq(responseAside.slotId, paper.slot(1)))
        .all();
    for (const givenAt of [0, begins + 30 * second, begins + 90 * minute])
      expect(refusal(paper.save(1, { picked: 'y' }, 64 * minute, { givenAt }))).toBe('too-late');
    expect(kept().map((one) => one.givenAt)).toEqual([begins + 60 * minute, null, null, null]);
    for (let i = 0; i < 300; i++) paper.save(1, { picked: `y${i}` }, 65 * minute, { givenAt: begins + 60 * minute });
    expect(kept()).toHaveLength(200);
    const [answer] = must(seeKeptAside(teacher(70 * minute), school.courseId, sittingId, student.userId));
    expect(answer?.receivedAt).toBe(begins + 65 * minute);
  });

  it('are shown with when they were given, and count once the instructor lets them', () => {
    const { sittingId, paper } = late();
    const [answer] = must(seeKeptAside(teacher(70 * minute), school.courseId, sittingId, student.userId));
    expect(answer).toMatchObject({
      number: 2,
      reason: 'late',
      inTime: true,
      givenAt: begins + 60 * minute,
      counting: '',
    });
    const key = { slotId: paper.slot(1), epoch: answer?.epoch ?? 0, sequence: answer?.sequence ?? 0 };
    expect(refusal(decideAside(school.as(student, 70 * minute), school.courseId, sittingId, key, true))).toBe(
      'not-allowed',
    );
    must(decideAside(teacher(71 * minute), school.courseId, sittingId, key, true));
    expect(
      school.db
        .select()
        .from(response)
        .where(eq(response.slotId, paper.slot(1)))
        .get(),
    ).toMatchObject({ value: { picked: 'y' }, revision: 1 });
    expect(refusal(decideAside(teacher(72 * minute), school.courseId, sittingId, key, false))).toBe('conflict');
    expect(must(seeKeptAside(teacher(72 * minute), school.courseId, sittingId, student.userId))).toEqual([]);
    expect(school.db.select().from(attemptEvent).where(eq(attemptEvent.kind, 'aside-taken')).all()).toHaveLength(1);
    expect(
      school.db
        .select()
        .from(mark)
        .where(and(eq(mark.slotId, paper.slot(1)), eq(mark.outdated, false)))
        .all(),
    ).toHaveLength(1);
  });

  it('can be left out, and then nothing changes', () => {
    const { sittingId, paper } = late();
    const [answer] = must(seeKeptAside(teacher(70 * minute), school.courseId, sittingId, student.userId));
    must(
      decideAside(
        teacher(71 * minute),
        school.courseId,
        sittingId,
        { slotId: paper.slot(1), epoch: answer?.epoch ?? 0, sequence: answer?.sequence ?? 0 },
        false,
      ),
    );
    expect(school.db.select().from(response).all()).toHaveLength(1);
    expect(must(seeKeptAside(teacher(72 * minute), school.courseId, sittingId, student.userId))).toEqual([]);
  });
});

it('times typed for one student are theirs alone: a closing of their own opens a closed sitting for them', () => {
  school.questions(2);
  const sittingId = school.sitting(school.exam([school.draw(1)]));
  const nothing = { extraPercent: 0, extraMinutes: 0, extraAttempts: 0, excused: false };
  const local = (later: number) => localFromInstant(begins + later, 'Europe/Oslo');
  const set = (more: object) =>
    arrange(teacher(50 * hour), school.courseId, sittingId, student.userId, { ...nothing, ...more });
  expect(refusal(startAttempt(at(50 * hour), sittingId))).toBe('too-late');
  expect(refusal(set({ closes: 'tomorrow' }))).toBe('bad-input');
  expect(refusal(set({ opens: local(60 * hour), closes: local(55 * hour) }))).toBe('bad-input');
  must(set({ closes: local(60 * hour) }));
  must(startAttempt(at(51 * hour), sittingId));
  const other = school.students[1] as Actor;
  expect(refusal(startAttempt(school.as(other, 51 * hour), sittingId))).toBe('too-late');
  expect(
    school.db
      .select()
      .from(outbox)
      .all()
      .filter((one) => one.subject === 'Sitting: arranged for you'),
  ).toHaveLength(1);
});

it('the hand-in sends its receipt, and a save for a foreign paper is logged', () => {
  school.questions(2);
  const sittingId = school.sitting(school.exam([school.draw(1)]), { nextTask: 'Go to room 4.' });
  const paper = writing(sittingId);
  must(handIn(at(3 * minute), paper.attemptId));
  must(handIn(at(4 * minute), paper.attemptId));
  const [message, ...more] = school.db
    .select()
    .from(outbox)
    .all()
    .filter((one) => one.subject.startsWith('Handed in: '));
  expect([message?.body.includes('Go to room 4.'), more.length]).toEqual([true, 0]);
  const other = school.students[1] as Actor;
  const save = {
    attemptId: paper.attemptId,
    slotId: paper.slot(0),
    epoch: 1,
    sequence: 9,
    value: { picked: 'x' },
    comeBack: false,
  };
  expect(refusal(saveResponses(school.db, [{ context: school.as(other, 5 * minute), save }])[0] as never)).toBe(
    'not-found',
  );
  expect(refusals().map((row) => [row.action, row.actorId])).toEqual([['refused.attempt.save', other.userId]]);
});
