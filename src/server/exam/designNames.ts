import type { Instant } from '@/core/base/time';
import { type ExamDesign, linesOf } from '@/core/exam/design';
import type { Names } from '@/core/exam/designSaid';
import type { Db } from '@/db/client';
import { courseSnapshot, examsOf } from '../bank/courseSnapshot';
import { objectivesInCourse } from '../bank/objectives';
import { questionNames } from './exams';

/** What the ids in designs are called. */
export function designNames(db: Db, courseId: string, designs: readonly ExamDesign[], now: Instant): Names {
  const { categoryNames } = courseSnapshot(db, courseId, { now });
  const questionIds = new Set(
    designs.flatMap((design) =>
      linesOf(design).flatMap(({ line }) => (line.kind === 'fixed' ? [line.questionId] : [])),
    ),
  );
  return {
    categories: categoryNames,
    exams: examsOf(db, courseId).titles,
    questions: new Map(Object.entries(questionNames(db, [...questionIds])).map(([id, { name }]) => [id, name])),
    objectives: new Map(objectivesInCourse(db, courseId).map((one) => [one.id, one.code || one.wording])),
  };
}
