import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { hour, minute, second } from '@/core/base/time';
import type { ExamDesign, ExamPart } from '@/core/exam/design';
import { rightResponse } from '@/core/question/score';
import { attemptEvent, paperSlot, questionVersion, response, responseAside } from '@/db/schema';
import { observed } from '../bank/observed';
import type { Actor } from '../house/context';
import { sittingOf } from '../records/audience';
import { resultsOf } from '../release/results';
import { arrange } from '../sitting/arrange';
import { begins, must, refusal, School } from '../testing/school';
import { handInExpired } from './endAttempt';
import { handIn } from './handIn';
import { saveResponses } from './saveResponses';
import { startAttempt } from './startAttempt';
import { openForWriting, openTimedQuestion } from './takeAttempt';

let school: School;
let student: Actor;
let sequence = 0;

beforeEach(() => {
  school = new School();
  [student] = school.students as [Actor];
  school.questions(12);
  sequence = 0;
});

const withPart =
  (part: Partial<ExamPart>) =>
  (design: ExamDesign): ExamDesign => ({
    ...design,
    parts: design.parts.map((one) => ({ ...one, ...part })),
  });

/** Starts an attempt of a new sitting of a design. */
function begin(lines: ExamPart['lines'], change?: (design: ExamDesign) => ExamDesign, rules = {}) {
  const sittingId = school.sitting(school.exam(lines, null, change), rules);
  const { attemptId } = must(startAttempt(school.as(student, minute), sittingId));
  const opened = must(openForWriting(school.as(student, minute), attemptId));
  const slots = school.db
    .select()
    .from(paperSlot)
    .where(eq(paperSlot.attemptId, attemptId))
    .orderBy(paperSlot.position)
    .all();
  const save = (place: number, value: unknown, later = 2 * minute) => {
    sequence += 1;
    const slotId = slots[place]?.id ?? '';
    return saveResponses(school.db, [
      {
        context: school.as(student, later),
        save: { attemptId, slotId, epoch: opened.epoch, sequence, value, comeBack: false },
      },
    ])[0] as ReturnType<typeof saveResponses>[number];
  };
  const right = (place: number) => {
    const slot = slots[place] as (typeof slots)[number];
    const version = school.db.select().from(questionVersion).where(eq(questionVersion.id, slot.versionId)).get();
    return rightResponse(version?.content as never, slot.presentation);
  };
  const result = () => {
    const row = sittingOf(school.db, school.courseId, sittingId);
    return row && resultsOf(school.db, row).get(student.userId)?.result;
  };
  return { sittingId, attemptId, opened, slots, save, right, result };
}

describe('a choose-part', () => {
  const any2 = (extra: 'refused' | 'best') => withPart({ choose: { count: 2, extra } });

  it('takes no third answer until one is cleared, and keeps the refused one aside', () => {
    const { save, right, slots } = begin([school.draw(4, 3)], any2('refused'));
    expect([refusal(save(0, right(0))), refusal(save(1, right(1)))]).toEqual(['accepted', 'accepted']);
    expect(refusal(save(2, right(2)))).toBe('bad-input');
    expect(school.db.select().from(responseAside).get()).toMatchObject({
      slotId: slots[2]?.id,
      reason: 'beyond-choose',
      value: right(2),
    });
    expect(school.db.select().from(attemptEvent).all().at(-1)?.kind).toBe('refused-save');
    expect(refusal(save(1, right(1)))).toBe('accepted');
    expect(refusal(save(0, null))).toBe('accepted');
    expect(refusal(save(2, right(2)))).toBe('accepted');
  });

  it('is out of k times its points, and the best k count where more are allowed', () => {
    const { save, right, attemptId, result } = begin([school.draw(4, 3)], any2('best'));
    for (const place of [0, 1, 2]) must(save(place, right(place)));
    must(handIn(school.as(student, 3 * minute), attemptId));
    expect(result()).toMatchObject({ earned: 6, possible: 6, waiting: 0, ready: true });
  });

  it('says nothing about the questions that were not chosen', () => {
    const { save, right, attemptId, slots } = begin([school.draw(4, 3)], any2('best'));
    must(save(1, right(1)));
    must(handIn(school.as(student, 3 * minute), attemptId));
    const seen = observed(
      school.db,
      slots.map((slot) => slot.questionId),
    );
    expect(slots.map((slot) => seen.get(slot.questionId)?.success ?? null)).toEqual([
      null,
      { mean: 1, n: 1 },
      null,
      null,
    ]);
  });

  it('is said to the student with the paper, and where its questions stand', () => {
    const { opened } = begin([school.draw(4, 3)], any2('best'));
    expect(Object.values(opened.choose)).toEqual([{ count: 2, extra: 'best' }]);
    expect(opened.slots.every((slot) => slot.partId in opened.choose)).toBe(true);
  });
});

describe('a required question', () => {
  it('holds the student’s hand-in back while it is empty, never the clock’s', () => {
    const fixed = school.questions(1)[0] ?? '';
    const { attemptId, save, right } = begin([{ ...school.fixed(fixed), required: true }, school.draw(3)]);
    const early = handIn(school.as(student, 3 * minute), attemptId);
    expect(early.ok ? '' : early.problems[0]?.message).toBe('Question 1 has to be answered before you hand in.');
    must(save(0, right(0)));
    must(handIn(school.as(student, 4 * minute), attemptId));

    const other = begin([{ ...school.fixed(fixed), required: true }]);
    expect(handInExpired({ db: school.db, now: begins + 2 * hour })).toBe(1);
    expect(must(handIn(school.as(student, 2 * hour), other.attemptId)).standing).toMatchObject({ by: 'clock' });
  });

  it('lets go once its own time is over', () => {
    const { attemptId } = begin([{ ...school.draw(1), required: true, minutes: 2 }]);
    const slotId = school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).get()?.id ?? '';
    expect(refusal(handIn(school.as(student, 3 * minute), attemptId))).toBe('conflict');
    must(openTimedQuestion(school.as(student, 3 * minute), attemptId, slotId));
    expect(refusal(handIn(school.as(student, 4 * minute), attemptId))).toBe('conflict');
    expect(refusal(handIn(school.as(student, 5 * minute), attemptId))).toBe('accepted');
  });
});

describe('the time of one question', () => {
  const timed = () => begin([{ ...school.draw(2), minutes: 2 }, school.draw(1)]);

  it('sends nothing of the question before it is opened', () => {
    const { opened } = timed();
    expect(opened.slots.map((slot) => [slot.view === null, slot.limit, slot.until])).toEqual([
      [true, 2 * minute, null],
      [true, 2 * minute, null],
      [false, null, null],
    ]);
    expect(JSON.stringify(opened.slots.slice(0, 2))).not.toContain('stem');
  });

  it('runs from its opening by the server’s clock; opening again does not begin it anew', () => {
    const { attemptId, slots, save, right } = timed();
    const open = (later: number) => must(openTimedQuestion(school.as(student, later), attemptId, slots[0]?.id ?? ''));
    expect(refusal(save(0, right(0)))).toBe('bad-input');
    expect(open(5 * minute).until).toBe(begins + 7 * minute);
    expect(open(6 * minute).until).toBe(begins + 7 * minute);
    expect(refusal(save(0, right(0), 7 * minute + 3 * second))).toBe('accepted');
    expect(refusal(save(0, right(0), 7 * minute + 4 * second))).toBe('bad-input');
    expect(refusal(save(2, right(2), 8 * minute))).toBe('accepted');
    expect(
      school.db
        .select()
        .from(responseAside)
        .all()
        .map((one) => one.reason),
    ).toEqual(['question-over', 'question-over']);
  });

  it('is longer by the student’s extra percent and never past the deadline', () => {
    const { attemptId, slots, sittingId } = timed();
    must(
      arrange(school.as(school.teacher, 2 * minute), school.courseId, sittingId, student.userId, {
        extraPercent: 50,
        extraMinutes: 0,
        extraAttempts: 0,
        excused: false,
      }),
    );
    const until = (place: number, later: number) =>
      must(openTimedQuestion(school.as(student, later), attemptId, slots[place]?.id ?? '')).until;
    expect(until(0, 5 * minute)).toBe(begins + 8 * minute);
    expect(until(1, 90 * minute)).toBe(begins + 91 * minute);
  });

  it('is opened by nobody else', () => {
    const { attemptId, slots } = timed();
    const stranger = school.students[1] as Actor;
    expect(refusal(openTimedQuestion(school.as(stranger, minute), attemptId, slots[0]?.id ?? ''))).toBe('not-found');
    expect(refusal(openTimedQuestion(school.as(student, minute), attemptId, 'slot-of-none'))).toBe('not-found');
    expect(
      school.db
        .select()
        .from(paperSlot)
        .all()
        .every((slot) => slot.openedAt === null),
    ).toBe(true);
  });
});

describe('how a paper looks', () => {
  it('follows the exam: pages, labels, choices as written', () => {
    const { opened, slots } = begin([school.draw(4)], (design) => ({
      ...design,
      pages: 'all',
      labels: 'k',
      choices: 'as-written',
    }));
    expect(new Set(opened.slots.map((slot) => slot.page))).toEqual(new Set([0]));
    expect(opened.slots.map((slot) => slot.view && 'labels' in slot.view && slot.view.labels)).toEqual(
      Array(4).fill('k'),
    );
    expect(slots.map((slot) => slot.presentation.choices?.map((one) => one.id).join(''))).toEqual(
      Array(4).fill('c0c1c2c3'),
    );
  });
});

it('an exam that is not scored gives no marks and no results, whatever was answered', () => {
  const { save, right, attemptId, result } = begin([school.draw(2)], (design) => ({
    ...design,
    purpose: { scored: false, counts: 'no', anonymous: false },
  }));
  must(save(0, right(0)));
  must(handIn(school.as(student, 3 * minute), attemptId));
  expect(result()).toBeUndefined();
  expect(school.db.select().from(response).all()).toHaveLength(1);
});

it('an exam that counts for taking part gives all its points to whoever answered anything', () => {
  const purpose = { scored: false, counts: 'taking-part', anonymous: false } as const;
  const answered = begin([school.draw(2, 5)], (design) => ({ ...design, purpose }));
  must(answered.save(0, answered.right(0)));
  must(handIn(school.as(student, 3 * minute), answered.attemptId));
  expect(answered.result()).toMatchObject({ earned: 10, possible: 10, ready: true });
  const empty = begin([school.draw(2, 5)], (design) => ({ ...design, purpose }));
  must(handIn(school.as(student, 3 * minute), empty.attemptId));
  expect(empty.result()).toBeUndefined();
});
