import type { Instant } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { isKeyed } from '@/core/exam/items/item';
import { type PlanCheck, planCheck } from '@/core/exam/planCheck';
import type { Db, Tx } from '@/db/client';
import { type CourseQuestions, courseSnapshot } from '../bank/courseSnapshot';
import { storedItems } from './storedItems';

type Asked = { courseId: string; examId: string; design: ExamDesign; now: Instant };

/** The questions that a design can draw from today, and its plan check over them. */
export function checkedPlan(
  db: Db | Tx,
  { courseId, examId, design, now }: Asked,
): CourseQuestions & { check: PlanCheck } {
  const found = courseSnapshot(db, courseId, { design, examId, now });
  const keyless = design.offScreen
    ? storedItems(db, design)
        .filter(({ content }) => !isKeyed(content))
        .map(({ item }) => item)
    : [];
  return { ...found, check: planCheck(design, found.snapshot, found.categoryNames, found.examTitles, keyless) };
}
