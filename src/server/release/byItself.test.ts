import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { day, hour, minute } from '@/core/base/time';
import type { ReleasePlan } from '@/core/release/plan';
import { outbox, publication } from '@/db/schema';
import { gradebook } from '../gradebook/gradebook';
import { giveMark } from '../marking/giveMark';
import { saveSitting } from '../sitting/saveRules';
import { planOf, releaseSchool, window } from '../testing/releaseSchool';
import { must } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { withdrawPublished } from './publish';
import { releaseDue } from './releaseDue';
import { sittingResults } from './results';

const at = releaseSchool();
const { student, teacher, give, take, markEssays, review, publish } = at;

describe('a preliminary score', () => {
  it('is there on hand-in, says what is marked of what, and no total rests on it', () => {
    const sittingId = give({ releasePlan: planOf(['score'], window('on-hand-in')) });
    take(sittingId, student(0));
    expect(review(sittingId, 0, 11 * minute).score).toMatchObject({
      preliminary: true,
      earned: 0,
      marked: 4,
      possible: 10,
      waiting: 1,
      band: null,
    });
    const book = must(gradebook(teacher(), at.school.courseId));
    expect([book.rows[0]?.marks, book.rows[0]?.total]).toEqual([{ preliminary: [0] }, null]);
    expect(at.school.db.select().from(outbox).where(eq(outbox.subject, 'Sitting: your result')).all()).toEqual([]);
    // As marks come in it follows, and publishing takes its place.
    markEssays(sittingId);
    releaseDue(at.school.db, teacher(25 * minute).now);
    expect(review(sittingId, 0, 26 * minute).score).toMatchObject({ preliminary: true, earned: 3, waiting: 0 });
    publish(sittingId, 1);
    expect(review(sittingId, 0, hour).score).toMatchObject({ preliminary: false, earned: 3 });
    expect(must(gradebook(teacher(hour), at.school.courseId)).rows[0]?.marks).toEqual({});
  });

  it('comes by itself at its moment, without anybody’s browser', () => {
    const plan: ReleasePlan = { score: [{ begins: { kind: 'after-closing', days: 1 } }] };
    const sittingId = give({ releasePlan: plan });
    take(sittingId, student(0));
    const rows = () => at.school.db.select().from(publication).all().length;
    const sweep = (later: number) => releaseDue(at.school.db, teacher(later).now);
    sweep(2 * day);
    expect(rows()).toBe(0);
    expect(sweep(2 * day + hour)).toBe(0);
    sweep(3 * day);
    expect(rows()).toBe(1);
    sweep(3 * day + hour);
    expect(rows()).toBe(1);
    expect(review(sittingId, 0, 3 * day).score?.preliminary).toBe(true);
  });
});

describe('sittings that publish themselves', () => {
  const self = (kind: 'each' | 'all', notBefore: number | null = null) => ({ selfPublish: { kind, notBefore } });
  const sweep = (later: number) => releaseDue(at.school.db, teacher(later).now);
  const published = () => at.school.db.select().from(publication).where(eq(publication.preliminary, false)).all();

  it('each as soon as it is completely marked, and tell the student', () => {
    const sittingId = give(self('each'));
    take(sittingId, student(0));
    take(sittingId, student(1));
    sweep(15 * minute);
    expect(published()).toEqual([]);
    const [first] = at.essays(sittingId, 20 * minute);
    must(
      giveMark(teacher(20 * minute), at.school.courseId, first?.slotId ?? '', {
        points: 6,
        comment: '',
        revision: 1,
        before: null,
      }),
    );
    sweep(21 * minute);
    expect(published()).toHaveLength(1);
    expect(at.school.db.select().from(outbox).where(eq(outbox.subject, 'Sitting: your result')).all()).toHaveLength(1);
  });

  it('all once it is over and the last is marked, not before a moment', () => {
    const sittingId = give(self('all', teacher(4 * day).now));
    for (const i of [0, 1]) take(sittingId, student(i));
    markEssays(sittingId);
    for (const later of [hour, 2 * day, 3 * day]) sweep(later);
    expect(published()).toEqual([]);
    sweep(4 * day);
    expect(published()).toHaveLength(2);
  });

  it('leave alone what was withdrawn, and what a mark changed after it was published', () => {
    const sittingId = give(self('each'));
    for (const i of [0, 1]) take(sittingId, student(i));
    markEssays(sittingId);
    sweep(25 * minute);
    must(withdrawPublished(teacher(26 * minute), at.school.courseId, sittingId, [student(0).userId]));
    sweep(27 * minute);
    const standing = () => published().filter((row) => row.withdrawnAt === null);
    expect(standing().map((row) => row.userId)).toEqual([student(1).userId]);
    const [, second] = at.essays(sittingId, 30 * minute);
    for (const body of at.essays(sittingId, 30 * minute))
      must(
        giveMark(teacher(30 * minute), at.school.courseId, body.slotId, {
          points: 1,
          comment: '',
          revision: 1,
          before: body.markId,
        }),
      );
    expect(second).toBeDefined();
    sweep(31 * minute);
    expect(standing().map((row) => row.earned)).toEqual([3]);
    expect(must(sittingResults(teacher(32 * minute), at.school.courseId, sittingId)).rows[1]?.changed).toBe(true);
  });

  it('publish anew what a further attempt has changed', () => {
    const sittingId = give({ ...self('each'), attemptsAllowed: 2, attemptCounts: 'last' });
    take(sittingId, student(0));
    markEssays(sittingId);
    sweep(25 * minute);
    takePaper(at.school, sittingId, student(0), [null, null], 40);
    sweep(50 * minute);
    expect(
      published()
        .filter((row) => row.withdrawnAt === null)
        .map((row) => row.earned),
    ).toEqual([0]);
  });
});

describe('the sweeper', () => {
  it('looks again only where something has moved: a mark, a hand-in, a rule', () => {
    const first = give({ releasePlan: planOf(['score'], window('on-hand-in')) });
    const second = give({ releasePlan: planOf(['score'], window('on-hand-in')) });
    const sweep = (later: number) => releaseDue(at.school.db, teacher(later).now);
    take(first, student(0));
    take(second, student(1));
    expect(sweep(11 * minute)).toBe(2);
    expect(sweep(12 * minute)).toBe(0);
    markEssays(first);
    expect(sweep(21 * minute)).toBe(1);
    expect(review(first, 0, 22 * minute).score).toMatchObject({ earned: 3, waiting: 0 });
    take(second, student(0));
    expect(sweep(24 * minute)).toBe(1);
    must(saveSitting(teacher(25 * minute), at.school.courseId, first, { title: 'Another title' }));
    expect(sweep(26 * minute)).toBe(1);
  });
});
