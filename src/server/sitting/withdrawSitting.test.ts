import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { localFromInstant } from '@/core/base/localTime';
import { hour, minute } from '@/core/base/time';
import { outbox, sitting, sittingAudience } from '@/db/schema';
import { startAttempt } from '../attempt/startAttempt';
import { desk } from '../desk/desk';
import { myExams } from '../desk/myExams';
import { gradebook } from '../gradebook/gradebook';
import { scheduleAcknowledged } from '../testing/scheduleAcknowledged';
import { begins, must, refusal, School } from '../testing/school';
import { arrange } from './arrange';
import { openSitting } from './openSitting';
import { saveSitting } from './saveRules';
import { scheduleSitting } from './schedule';
import { createSitting } from './sittings';
import { callOffSitting, redraftSitting, removeSitting } from './withdrawSitting';

let school: School;
let examId: string;
const teacher = (later = 0) => school.as(school.teacher, later);
const student = () => school.students[0] as School['teacher'];
const local = (later: number) => localFromInstant(begins + later, 'Europe/Oslo');
const stateOf = (id: string) => school.db.select().from(sitting).where(eq(sitting.id, id)).get()?.state;

beforeEach(() => {
  school = new School(2);
  school.questions(3);
  examId = school.exam([school.draw(2)]);
});

describe('a sitting that does not take place', () => {
  it('is called off before anybody has begun: those who were told are told, and it is gone from their exams and the gradebook', () => {
    const id = school.sitting(examId, { opens: local(hour) });
    expect(must(callOffSitting(teacher(), school.courseId, id))).toEqual({ told: 2 });
    expect(stateOf(id)).toBe('cancelled');
    const told = school.db
      .select()
      .from(outbox)
      .all()
      .filter((one) => one.subject === 'Called off: Sitting');
    expect(told).toHaveLength(2);
    expect(myExams(school.as(student()))).toEqual([]);
    expect(refusal(startAttempt(school.as(student(), 2 * hour), id))).toBe('not-found');
    expect(must(gradebook(teacher(), school.courseId)).columns).toEqual([]);
    expect(refusal(callOffSitting(teacher(), school.courseId, id))).toBe('conflict');
    expect(refusal(scheduleSitting(teacher(), school.courseId, id))).toBe('conflict');
    must(redraftSitting(teacher(), school.courseId, id));
    expect(stateOf(id)).toBe('draft');
  });

  it('once it was begun stays', () => {
    const id = school.sitting(examId);
    must(startAttempt(school.as(student(), minute), id));
    expect(refusal(callOffSitting(teacher(2 * minute), school.courseId, id))).toBe('conflict');
    expect(stateOf(id)).toBe('scheduled');
    expect(refusal(removeSitting(teacher(2 * minute), school.courseId, id))).toBe('conflict');
  });

  it('as a draft is removed with all that belongs to it, and nothing else', () => {
    const { sittingId } = must(createSitting(teacher(), school.courseId, { examId }));
    const other = must(createSitting(teacher(), school.courseId, { examId }));
    must(saveSitting(teacher(), school.courseId, sittingId, { markerIds: [school.marker.userId] }));
    must(removeSitting(teacher(), school.courseId, sittingId));
    expect(school.db.select().from(sitting).all()).toMatchObject([{ id: other.sittingId }]);
    expect(school.db.select().from(sittingAudience).where(eq(sittingAudience.sittingId, sittingId)).all()).toEqual([]);
  });
});

describe('times that cannot be', () => {
  it('an own opening after the last start is refused, and named before scheduling where the rules brought it about', () => {
    const id = school.sitting(examId, { opens: local(hour), lastStart: local(3 * hour) });
    const own = { extraPercent: 0, extraMinutes: 0, extraAttempts: 0, excused: false };
    const late = arrange(teacher(), school.courseId, id, student().userId, { ...own, opens: local(4 * hour) });
    expect(late.ok ? '' : late.problems[0]?.field).toBe('opens');
    const { sittingId } = must(createSitting(teacher(), school.courseId, { examId }));
    must(arrange(teacher(), school.courseId, sittingId, student().userId, { ...own, opens: local(4 * hour) }));
    must(saveSitting(teacher(), school.courseId, sittingId, school.rules({ lastStart: local(3 * hour) })));
    expect(must(openSitting(teacher(), school.courseId, sittingId)).findings.map((one) => one.key)).toContain(
      'never-starts:Student 1',
    );
  });

  it('a time that the clocks skip is refused at its field', () => {
    const { sittingId } = must(createSitting(teacher(), school.courseId, { examId }));
    const saved = saveSitting(teacher(), school.courseId, sittingId, { opens: '2026-03-29T02:30' });
    expect(saved.ok ? null : saved.problems[0]).toMatchObject({
      field: 'opens',
      message: 'On this day the clocks go forward: there is no 02:30. The time after the change is 03:30.',
    });
  });
});

it('a draft says which promises of other sittings it would hold back', () => {
  const now = [{ begins: { kind: 'on-hand-in' as const } }];
  school.sitting(examId, {
    title: 'First',
    closes: local(4 * hour),
    releasePlan: { score: now, questions: now, 'right-answers': [{ begins: { kind: 'after-closing', days: 0 } }] },
  });
  const { sittingId } = must(createSitting(teacher(), school.courseId, { examId }));
  must(
    saveSitting(teacher(), school.courseId, sittingId, school.rules({ opens: local(hour), closes: local(48 * hour) })),
  );
  const said = must(openSitting(teacher(), school.courseId, sittingId)).findings.filter((one) =>
    one.key.startsWith('holds-back:'),
  );
  expect(said.map((one) => one.message)).toEqual([
    expect.stringMatching(
      /^Students of “First” no longer see the right answers as they were promised: it is held back until /,
    ),
  ]);
  // Once it is scheduled all the same, the desk says of the first what it holds back.
  must(scheduleAcknowledged(teacher(), school.courseId, sittingId));
  expect(must(desk(teacher(2 * minute), school.courseId)).decisions).toMatchObject([
    { title: 'First', count: 1, says: expect.stringMatching(/^what students were promised is held back until /) },
  ]);
  expect(myExams(school.as(student(), 2 * minute))[0]?.afterwards).toMatch(
    /Some of it is held back until .*, because others may still be writing the same questions\.$/,
  );
});
