import { expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import type { Db } from '@/db/client';
import { mark } from '@/db/schema';
import { handIn } from '../attempt/handIn';
import type { Actor, Context } from '../house/context';
import { adjustMark, adjustPaper } from '../marking/adjust';
import { giveMark } from '../marking/giveMark';
import { markGroup } from '../marking/groups';
import { reopen, restoreAttempt, voidAttempt } from '../room/invigilate';
import { arrange } from '../sitting/arrange';
import { must, nothingArranged, numberContent, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { undoChange } from '../undoChange';
import { publishReady } from './publish';
import { sittingResults } from './results';

it('results are kept while nothing has moved them, and are as if worked out anew after everything that does', () => {
  const school = new School(3);
  const essay = school.question(writtenContent('essay'));
  const sittingId = school.sitting(
    school.exam([school.fixed(school.question(numberContent('number', '7')), 4), school.fixed(essay, 6)]),
  );
  const [one, two] = school.students as [Actor, Actor];
  let at = 20;
  const teacher = () => school.as(school.teacher, at++ * minute);
  const seen = (context: Context) => must(sittingResults(context, school.courseId, sittingId));
  /** What is kept belongs to a database as it was opened: this one keeps nothing. */
  const anew = (context: Context): Context => ({ ...context, db: Object.create(school.db) as Db });
  let before = seen(teacher());
  const moves = (act: () => unknown) => {
    act();
    const now = teacher();
    const kept = seen(now);
    expect(kept).toEqual(seen(anew(now)));
    expect(kept).not.toEqual(before);
    before = kept;
  };
  const newest = () =>
    Math.max(
      ...school.db
        .select({ id: mark.id })
        .from(mark)
        .all()
        .map((row) => row.id),
    );

  let slots: string[] = [];
  let attemptId = '';
  moves(() => {
    ({ attemptId, slotIds: slots } = takePaper(school, sittingId, one, [{ text: '7' }, { text: 'an essay' }]));
  });
  const [number, written] = slots as [string, string];
  moves(() => takePaper(school, sittingId, two, [{ text: '8' }, { text: 'another' }]));
  moves(() =>
    must(giveMark(teacher(), school.courseId, written, { points: 3, comment: '', revision: 1, before: null })),
  );
  const given = newest();
  moves(() => must(publishReady(teacher(), school.courseId, sittingId, { expected: 1 })));
  let auditId = 0;
  moves(() => {
    const answers = [{ slotId: written, revision: 1, before: given }];
    ({ auditId } = must(markGroup(teacher(), school.courseId, { points: 5, comment: '', answers })));
  });
  moves(() => must(undoChange(teacher(), school.courseId, auditId)));
  moves(() => {
    const [first] = school.db
      .select()
      .from(mark)
      .all()
      .filter((row) => row.slotId === number);
    const adjustment = { points: 1, reason: 'Half a word.', comment: '', revision: 1, before: first?.id ?? null };
    must(adjustMark(teacher(), school.courseId, number, adjustment));
  });
  moves(() => must(adjustPaper(teacher(), school.courseId, attemptId, { points: -1, reason: 'Late.', before: null })));
  moves(() => must(voidAttempt(teacher(), school.courseId, sittingId, attemptId, 'Not his own.')));
  moves(() => must(restoreAttempt(teacher(), school.courseId, sittingId, attemptId)));
  moves(() => must(reopen(teacher(), school.courseId, sittingId, attemptId, { minutes: 30, reason: 'Too soon.' })));
  moves(() => must(handIn(school.as(one, at++ * minute), attemptId)));
});

it('results say how late what counts was handed in, by the due of each student', () => {
  const school = new School(3);
  const sittingId = school.sitting(school.exam([school.fixed(school.question(numberContent('number', '7')), 4)]), {
    due: '2026-03-03T10:00',
    attemptsAllowed: 2,
    attemptCounts: 'best',
  });
  const [one, two, three] = school.students as [Actor, Actor, Actor];
  must(
    arrange(school.as(school.teacher, minute), school.courseId, sittingId, three.userId, {
      ...nothingArranged,
      due: '2026-03-04T09:00',
    }),
  );
  const late = 24 * 60 + 30;
  // The first is late with what counts, the second only with what does not, the third has a due of their own.
  takePaper(school, sittingId, one, [{ text: '7' }], late);
  takePaper(school, sittingId, two, [{ text: '7' }], 2);
  takePaper(school, sittingId, two, [{ text: '8' }], late);
  takePaper(school, sittingId, three, [{ text: '7' }], late);
  const { rows } = must(sittingResults(school.as(school.teacher, 3_000 * minute), school.courseId, sittingId));
  expect(rows.map((row) => row.daysLate)).toEqual([1, 0, 0]);
});
