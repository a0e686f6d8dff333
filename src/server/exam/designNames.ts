import { type ExamDesign, linesOf } from '@/core/exam/design';
import type { Names } from '@/core/exam/designSaid';
import type { Db } from '@/db/client';
import { categoryNamesInCourse, examsOf } from '../bank/courseSnapshot';
import { objectivesInCourse } from '../bank/objectives';
import { questionNames } from './exams';

/** What the ids in designs are called. */
export function designNames(db: Db, courseId: string, designs: readonly ExamDesign[]): Names {
  const questionIds = new Set(
    designs.flatMap((design) =>
      linesOf(design).flatMap(({ line }) => (line.kind === 'fixed' ? [line.questionId] : [])),
    ),
  );
  return {
    categories: categoryNamesInCourse(db, courseId),
    exams: examsOf(db, courseId).titles,
    questions: new Map(Object.entries(questionNames(db, [...questionIds])).map(([id, { name }]) => [id, name])),
    objectives: new Map(objectivesInCourse(db, courseId).map((one) => [one.id, one.code || one.wording])),
  };
}
