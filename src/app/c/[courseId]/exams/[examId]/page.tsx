import type { Metadata } from 'next';
import { openExam } from '@/server/exam/exams';
import { openItems } from '@/server/exam/items';
import { seeCourse } from '@/server/people/courses';
import { ExamPlan } from '@/ui/exam/ExamPlan';
import { OffScreenPlan } from '@/ui/exam/items/OffScreenPlan';
import { orNotFound, pageContext } from '../../../../request';
import { changeExam, changeItems, choosable, giveExam, label, lookThrough } from '../actions';

export const metadata: Metadata = { title: 'Exam plan' };

export default async function Exam({ params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const { courseId, examId } = await params;
  const context = await pageContext();
  const { role } = orNotFound(seeCourse(context, courseId));
  const exam = orNotFound(openExam(context, courseId, examId));
  const common = {
    base: `/c/${courseId}`,
    exam,
    mayChange: role === 'instructor',
    save: changeExam.bind(null, courseId, examId),
    give: giveExam.bind(null, courseId, examId),
    label: label.bind(null, courseId, examId),
  };
  if (exam.design.offScreen) {
    const items = openItems(context, courseId, examId);
    return (
      <OffScreenPlan
        {...common}
        items={items.ok ? items.value : []}
        change={changeItems.bind(null, courseId, examId)}
      />
    );
  }
  return (
    <ExamPlan
      {...common}
      choose={choosable.bind(null, courseId)}
      lookThrough={lookThrough.bind(null, courseId, examId)}
    />
  );
}
