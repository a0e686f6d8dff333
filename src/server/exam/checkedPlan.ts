import { type Instant, minute } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { isKeyed } from '@/core/exam/items/item';
import { type PlanCheck, planCheck } from '@/core/exam/planCheck';
import type { Db, Tx } from '@/db/client';
import { type CourseQuestions, courseSnapshot } from '../bank/courseSnapshot';
import { keptWhile } from '../house/keptWhile';
import { stateStamp } from '../records/stateStamp';
import { storedItems } from './storedItems';

type Asked = { courseId: string; examId: string; design: ExamDesign; now: Instant };

const kept = keptWhile<CourseQuestions & { check: PlanCheck }>();

/**
 * The questions that a design can draw from today, and its plan check over them. Pages look at it again and again while
 * nothing moves; how many days a question has rested is looked at again every minute.
 */
export const checkedPlan = (db: Db | Tx, asked: Asked): CourseQuestions & { check: PlanCheck } =>
  kept(
    db,
    `${asked.courseId}/${asked.examId}`,
    (stamped) => [stateStamp(stamped), Math.floor(asked.now / minute), JSON.stringify(asked.design)].join('/'),
    () => lookUp(db, asked),
  );

function lookUp(db: Db | Tx, { courseId, examId, design, now }: Asked): CourseQuestions & { check: PlanCheck } {
  const found = courseSnapshot(db, courseId, { design, examId, now });
  const keyless = design.offScreen
    ? storedItems(db, design)
        .filter(({ content }) => !isKeyed(content))
        .map(({ item }) => item)
    : [];
  return { ...found, check: planCheck(design, found.snapshot, found.categoryNames, found.examTitles, keyless) };
}
