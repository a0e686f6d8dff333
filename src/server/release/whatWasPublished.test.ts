import { and, eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { hour, minute } from '@/core/base/time';
import type { ReleasePlan, ReleaseWindow } from '@/core/release/plan';
import { outbox, publication } from '@/db/schema';
import { sampleSheet } from '../gradebook/feedbackSheets';
import { adjustMark } from '../marking/adjust';
import { markedPaper } from '../marking/responses';
import { planOf, releaseSchool, window } from '../testing/releaseSchool';
import { must, refusal } from '../testing/school';
import { publishReady } from './publish';
import { sittingResults } from './results';
import { reviewAs } from './review';

const at = releaseSchool();
const { student, teacher, give, take, markEssays, review, publish } = at;

describe('what was published', () => {
  const everything = ['score', 'questions', 'own-answers', 'right-or-wrong', 'comments'] as const;
  let sittingId: string;
  let slotId: string;
  const adjust = (points: number, more: object = {}) => {
    const { questions } = must(markedPaper(teacher(hour), at.school.courseId, sittingId, student(0).userId));
    const one = questions.find((question) => question.slotId === slotId);
    return adjustMark(teacher(hour), at.school.courseId, slotId, {
      points,
      reason: 'Read again.',
      revision: one?.revision,
      before: one?.markId,
      ...more,
    });
  };
  const seen = (later: number) => {
    const shown = review(sittingId, 0, later);
    const question = shown.questions.find((one) => one.slotId === slotId);
    return [shown.score?.earned, question?.points, question?.comment];
  };
  const printed = () => {
    const layout = { fields: ['score', 'questions'], letter: '', signature: '', rightAnswers: false };
    const sheet = must(sampleSheet(teacher(2 * hour), at.school.courseId, sittingId, student(0).userId, layout));
    return sheet.blocks.flatMap((block) =>
      block.kind === 'result' ? [block.text] : block.kind === 'question' ? [block.points, block.comment] : [],
    );
  };

  beforeEach(() => {
    sittingId = give({ releasePlan: planOf(everything, window('on-publishing')) });
    // Everyone is done with it: nothing is held back.
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    markEssays(sittingId);
    publish(sittingId, 3);
    slotId = review(sittingId, 0, 40 * minute).questions.find((one) => one.points === 3)?.slotId ?? '';
  });

  it('is not altered by a mark that changes: its points, too, stay until it is published anew', () => {
    expect(seen(40 * minute)).toEqual([3, 3, 'COMMENTWORD']);
    must(adjust(5, { comment: 'Better than I thought.' }));
    expect(seen(2 * hour)).toEqual([3, 3, 'COMMENTWORD']);
    expect(printed()).toEqual(expect.arrayContaining(['3 of 10 points', '3 of 6', 'COMMENTWORD']));
    publish(sittingId, 1, {}, 3 * hour);
    expect(seen(4 * hour)).toEqual([5, 5, 'Better than I thought.']);
    expect(printed()).toEqual(expect.arrayContaining(['5 of 10 points', '5 of 6', 'Better than I thought.']));
  });

  it('is told with a comment that was written anew, since there is nothing to publish', () => {
    must(adjust(3, { comment: 'Said more clearly.' }));
    expect(seen(2 * hour)).toEqual([3, 3, 'Said more clearly.']);
    expect(must(sittingResults(teacher(2 * hour), at.school.courseId, sittingId)).rows[0]?.changed).toBe(false);
  });

  it('shows what it would be, where the page is looked at as if it were published', () => {
    must(adjust(5));
    const order = { userId: student(0).userId, at: teacher(2 * hour).now, number: null };
    const as = (published: boolean) =>
      must(reviewAs(teacher(2 * hour), at.school.courseId, sittingId, { ...order, published })).questions.map(
        (one) => one.points,
      );
    expect(as(false)).toContain(3);
    expect(as(true)).toContain(5);
  });
});

describe('publishing', () => {
  it('tells the score in a message only where the plan shows it from then on, for good', () => {
    const body = (releasePlan: ReleasePlan) => {
      const sittingId = give({ releasePlan });
      take(sittingId, student(0));
      markEssays(sittingId);
      publish(sittingId, 1);
      return at.school.db.select().from(outbox).where(eq(outbox.subject, 'Sitting: your result')).all().at(-1)?.body;
    };
    expect(body({ score: [{ begins: { kind: 'on-publishing' } }] })).toContain(': 3 of 10 points.');
    for (const hidden of [
      { begins: { kind: 'after-closing', days: 7 } },
      { begins: { kind: 'over-for-everyone' } },
      { begins: { kind: 'on-publishing' }, ends: { kind: 'once', minutes: 10 } },
      { begins: { kind: 'on-publishing' }, ends: { kind: 'after-days', days: 2 } },
    ] satisfies ReleaseWindow[])
      expect(body({ score: [hidden] })).not.toMatch(/\d/);
  });

  it('acts on exactly those named, and says nothing of a score that the plan hides', () => {
    const sittingId = give({ releasePlan: planOf(['questions', 'own-answers'], window('on-publishing')) });
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    markEssays(sittingId);
    const some = { userIds: [student(1).userId, student(2).userId] };
    expect(refusal(publishReady(teacher(), at.school.courseId, sittingId, { expected: 3, ...some }))).toBe('conflict');
    publish(sittingId, 2, some);
    const mails = at.school.db.select().from(outbox).where(eq(outbox.subject, 'Sitting: your result')).all();
    expect(mails.map((one) => one.userId).sort()).toEqual([...some.userIds].sort());
    expect(mails[0]?.body).not.toMatch(/\d/);
    const standing = at.school.db
      .select()
      .from(publication)
      .where(and(eq(publication.sittingId, sittingId), eq(publication.userId, student(0).userId)))
      .all();
    expect(standing).toEqual([]);
  });
});
