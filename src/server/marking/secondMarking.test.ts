import { beforeEach, describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import { mark } from '@/db/schema';
import type { Actor } from '../house/context';
import { waitingInSitting } from '../records/waiting';
import { sittingResults } from '../release/results';
import { must, refusal, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { answersToMark } from './answersToMark';
import { giveMark } from './giveMark';
import {
  answersToSecond,
  giveSecondMark,
  isInShare,
  moreToSecond,
  secondQueue,
  setSecondMarking,
} from './secondMarking';
import { secondMarkingOf, settle } from './settle';

let school: School;
let essay: string;
let sittingId: string;
const teacher = (later = 60) => school.as(school.teacher, later * minute);
const second = (later = 61) => school.as(school.marker, later * minute);
const set = (more: object = {}) =>
  setSecondMarking(teacher(), school.courseId, sittingId, {
    markerId: school.marker.userId,
    share: 1,
    threshold: 1,
    ...more,
  });
const page = () => must(secondMarkingOf(teacher(), school.courseId, sittingId));

beforeEach(() => {
  school = new School(4);
  essay = school.question(writtenContent('essay'));
  sittingId = school.sitting(school.exam([school.fixed(essay, 6)]));
  for (const [i, student] of school.students.entries())
    takePaper(school, sittingId, student as Actor, [{ text: `answer ${i}` }]);
});

/** First marks by the teacher, then second ones, in the order of the answers' words. */
function markBoth(first: number[], seconds: number[]) {
  const bodies = [...must(answersToMark(teacher(), school.courseId, sittingId, essay)).bodies].sort((a, b) =>
    a.text.localeCompare(b.text),
  );
  bodies.forEach((body, i) => {
    must(
      giveMark(teacher(), school.courseId, body.slotId, {
        points: first[i],
        comment: `first ${i}`,
        revision: body.revision,
        before: null,
      }),
    );
  });
  const blind = must(answersToSecond(second(), school.courseId, sittingId, essay));
  for (const body of blind.bodies)
    must(
      giveSecondMark(second(), school.courseId, body.slotId, {
        points: seconds[Number(body.text.at(-1))],
        comment: 'second',
        revision: body.revision,
        before: null,
      }),
    );
  return bodies;
}

describe('second marking', () => {
  it('shows the second marker nothing of the first, and never counts by itself', () => {
    must(set());
    must(
      giveMark(
        teacher(),
        school.courseId,
        must(answersToMark(teacher(), school.courseId, sittingId, essay)).bodies[0]?.slotId ?? '',
        {
          points: 5,
          comment: 'so good',
          revision: 1,
          before: null,
        },
      ),
    );
    const blind = must(answersToSecond(second(), school.courseId, sittingId, essay));
    expect(blind.heads).toHaveLength(4);
    expect(JSON.stringify(blind)).not.toContain('so good');
    expect(blind.bodies.every((body) => body.points === null && body.markId === null)).toBe(true);
    const ids = blind.heads.map((head) => head.slotId);
    expect(JSON.stringify(must(moreToSecond(second(), school.courseId, sittingId, ids)))).not.toContain('so good');
    const [body] = blind.bodies;
    const given = must(
      giveSecondMark(second(), school.courseId, body?.slotId ?? '', {
        points: 2,
        comment: 'mine',
        revision: 1,
        before: null,
      }),
    );
    expect(school.db.select().from(mark).all()).toHaveLength(1);
    const again = must(answersToSecond(second(), school.courseId, sittingId, essay));
    expect(again.bodies.find((one) => one.slotId === body?.slotId)).toMatchObject({
      points: 2,
      comment: 'mine',
      markId: given.markId,
    });
    expect(must(secondQueue(second(), school.courseId))).toMatchObject([{ waiting: 3, marked: 1 }]);
    expect(must(secondQueue(teacher(), school.courseId))).toEqual([]);
  });

  it('is of a random share that later answers do not change', () => {
    const ids = Array.from({ length: 4_000 }, (_, i) => `slot-${i}`);
    const share = (some: number) => ids.filter((id) => isInShare(id, 'sitting', some));
    expect(share(1)).toHaveLength(4_000);
    // Binomial: 800 ± 4 standard deviations of 25.3.
    expect(Math.abs(share(0.2).length - 800)).toBeLessThan(102);
    expect(share(0.5)).toEqual(expect.arrayContaining(share(0.2)));
  });

  it('lists differences above the threshold, says how far both agree, and settles', () => {
    must(set());
    // Differences 0, 1, 2, 2: two lie above the threshold of 1.
    const bodies = markBoth([1, 2, 3, 4], [1, 3, 5, 2]);
    expect(page().whole).toMatchObject({ answers: 4, exact: 0.25, withinOne: 0.5 });
    // Σd² = 9, mean 2.25; a: var 1.25, mean 2.5; b: 1 3 5 2, mean 2.75, var 2.1875; (2.5 − 2.75)² = 0.0625.
    expect(page().whole.kappa).toBeCloseTo(1 - 2.25 / 3.5, 12);
    expect(page().differences.map((one) => [one.text, one.first.points, one.second.points, one.settled])).toEqual([
      ['answer 2', 3, 5, null],
      ['answer 3', 4, 2, null],
    ]);
    // Whoever publishes is told of them.
    const waiting = () => waitingInSitting(school.db, sittingId).differences;
    expect(waiting()).toBe(2);
    const difference = page().differences.find((one) => one.text === 'answer 2');
    must(
      settle(teacher(70), school.courseId, difference?.slotId ?? '', {
        points: 4.5,
        revision: difference?.revision,
        before: difference?.markId,
      }),
    );
    expect(page().differences.map((one) => [one.text, one.settled])).toEqual([
      ['answer 3', null],
      ['answer 2', { points: 4.5, by: school.teacher.name, at: teacher(70).now, comment: 'first 2' }],
    ]);
    expect(waiting()).toBe(1);
    const earned = must(sittingResults(teacher(), school.courseId, sittingId)).rows.map((row) => row.result?.earned);
    expect(earned.sort()).toEqual([1, 2, 4, 4.5]);
    // It is settled anew over what was settled.
    const settled = page().differences.find((one) => one.text === 'answer 2');
    const anew = (before: number | undefined) =>
      settle(teacher(80), school.courseId, settled?.slotId ?? '', {
        points: 4,
        comment: 'Half of it.',
        revision: settled?.revision,
        before,
      });
    expect(refusal(anew(difference?.markId))).toBe('conflict');
    must(anew(settled?.markId));
    expect(page().differences.at(-1)?.settled).toMatchObject({ points: 4, comment: 'Half of it.' });
    // What both gave at first still says how far they agree.
    expect(page().whole).toMatchObject({ answers: 4, exact: 0.25 });
    expect(
      refusal(settle(teacher(71), school.courseId, bodies[2]?.slotId ?? '', { points: 1, revision: 1, before: 1 })),
    ).toBe('conflict');
  });

  it('refuses everyone else, what is outside the share, and a rule that makes no sense', () => {
    expect(refusal(answersToSecond(second(), school.courseId, sittingId, essay))).toBe('not-found');
    for (const wrong of [{ share: 0 }, { share: 1.5 }, { threshold: -1 }, { markerId: '' }])
      expect(refusal(set(wrong))).toBe('bad-input');
    expect(refusal(set({ markerId: school.students[0]?.userId }))).toBe('not-found');
    must(set({ share: 0.000001 }));
    expect(refusal(answersToSecond(second(), school.courseId, sittingId, essay))).toBe('not-found');
    const slotId = must(answersToMark(teacher(), school.courseId, sittingId, essay)).bodies[0]?.slotId ?? '';
    const give = (context = second()) =>
      refusal(giveSecondMark(context, school.courseId, slotId, { points: 1, comment: '', revision: 1, before: null }));
    expect(give()).toBe('not-found');
    must(set());
    expect(give(teacher())).toBe('not-found');
    expect(give()).toBe('accepted');
    expect(give()).toBe('conflict');
    must(setSecondMarking(teacher(), school.courseId, sittingId, null));
    expect(page().rule).toBeNull();
    expect(page().whole.answers).toBe(0);
  });
});
