import type { Metadata } from 'next';
import { listExams } from '@/server/exam/exams';
import { seeCourse } from '@/server/people/courses';
import { ExamsPage } from '@/ui/exam/ExamsPage';
import { commandsIn } from '../../../commands';
import { orNotFound, pageContext } from '../../../request';

export const metadata: Metadata = { title: 'Exams' };

export default async function Exams({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const context = await pageContext();
  const { role } = orNotFound(seeCourse(context, courseId));
  return (
    <ExamsPage
      base={`/c/${courseId}/exams`}
      exams={orNotFound(listExams(context, courseId))}
      mayChange={role === 'instructor'}
      {...commandsIn({ courseId }, 'createExam', 'duplicateExam', 'archiveExam')}
    />
  );
}
