import type { Metadata } from 'next';
import { choosableQuestions, openExam } from '@/server/exam/exams';
import { seeCourse } from '@/server/people/courses';
import { ExamPlan } from '@/ui/exam/ExamPlan';
import { orNotFound, pageContext } from '../../../../request';
import { changeExam, giveExam, label, lookThrough } from '../actions';

export const metadata: Metadata = { title: 'Exam plan' };

export default async function Exam({ params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const { courseId, examId } = await params;
  const context = await pageContext();
  const { role } = orNotFound(seeCourse(context, courseId));
  const choosable = choosableQuestions(context, courseId);
  return (
    <ExamPlan
      base={`/c/${courseId}`}
      exam={orNotFound(openExam(context, courseId, examId))}
      choosable={choosable.ok ? choosable.value : []}
      mayChange={role === 'instructor'}
      save={changeExam.bind(null, courseId, examId)}
      give={giveExam.bind(null, courseId, examId)}
      label={label.bind(null, courseId, examId)}
      lookThrough={lookThrough.bind(null, courseId, examId)}
    />
  );
}
