import { expect, it } from 'vitest';
import { everyQuestion } from '@/core/bank/questionFilter';
import { minute } from '@/core/base/time';
import { blankDesign, type ExamDesign } from '@/core/exam/design';
import type { Db } from '@/db/client';
import { giveMark } from '../marking/giveMark';
import { waitingForMarks } from '../marking/markingQueue';
import { voidAttempt } from '../room/invigilate';
import { must, numberContent, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { undoChange } from '../undoChange';
import { createCategory } from './categories';
import { courseSnapshot } from './courseSnapshot';
import { editMany } from './editMany';
import { createQuestion, openQuestion, retireQuestion, saveQuestion } from './questions';

it('what a bank holds is kept while nothing has moved it, and is as if looked up anew after everything that does', () => {
  const school = new School(2);
  school.questions(3);
  const first = school.question(numberContent('first', '7'));
  const essay = school.question(writtenContent('essay'));
  const sittingId = school.sitting(school.exam([school.fixed(first, 4), school.fixed(essay, 6)]));
  const [one, two] = school.students;
  let at = 20;
  const teacher = () => school.as(school.teacher, at++ * minute);
  const where = [school.courseId, school.bankId] as const;
  // A draw that rests questions asks when each stood on a paper last.
  const design: ExamDesign = {
    ...blankDesign('p'),
    parts: [
      {
        ...(blankDesign('p').parts[0] as ExamDesign['parts'][number]),
        lines: [
          {
            kind: 'draw',
            id: 'd',
            count: 1,
            points: 1,
            pool: { categories: [], difficulties: [], restDays: 5 },
          },
        ],
      },
    ],
  } as ExamDesign;
  const seen = (db: Db) => {
    const context = { ...teacher(), db };
    const { snapshot, categoryNames } = courseSnapshot(db, school.courseId, { design, now: 90 * 24 * 60 * minute });
    return [snapshot, [...categoryNames], waitingForMarks(context, school.courseId)];
  };
  let before = seen(school.db);
  const moves = (act: () => unknown) => {
    act();
    const kept = seen(school.db);
    /** What is kept belongs to a database as it was opened: this one keeps nothing. */
    expect(kept).toEqual(seen(Object.create(school.db) as Db));
    expect(kept).not.toEqual(before);
    before = kept;
  };

  const own = must(openQuestion(teacher(), ...where, first));
  const fields = {
    categoryId: own.categoryId,
    shortName: own.shortName,
    difficulty: own.difficulty,
    points: own.ownPoints,
    tags: own.tags,
    objectives: [],
    passageId: null,
  };
  moves(() =>
    must(
      saveQuestion(teacher(), ...where, first, { ...fields, difficulty: 'hard', content: own.content, edit: own.edit }),
    ),
  );
  moves(() => must(createQuestion(teacher(), ...where, { ...fields, content: numberContent('a new one', '3') })));
  moves(() => must(createCategory(teacher(), ...where, { name: 'Further', parentId: null })));
  let changed = 0;
  moves(() => {
    const selection = { filter: everyQuestion };
    changed =
      must(editMany(teacher(), ...where, { selection, change: { kind: 'add-tags', tags: ['x'] } })).auditId ?? 0;
  });
  moves(() => must(undoChange(teacher(), school.courseId, changed)));
  let slots: string[] = [];
  let attemptId = '';
  moves(() => {
    ({ attemptId, slotIds: slots } = takePaper(school, sittingId, one as never, [{ text: '7' }, { text: 'an essay' }]));
  });
  moves(() => takePaper(school, sittingId, two as never, [{ text: '8' }, { text: 'another' }]));
  moves(() =>
    must(giveMark(teacher(), school.courseId, slots[1] ?? '', { points: 3, comment: '', revision: 1, before: null })),
  );
  moves(() => must(voidAttempt(teacher(), school.courseId, sittingId, attemptId, 'Not his own.')));
  moves(() => must(retireQuestion(teacher(), ...where, first)));
});
