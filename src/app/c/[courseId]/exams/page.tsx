import type { Metadata } from 'next';
import { listExams } from '@/server/exam/exams';
import { seeCourse } from '@/server/people/courses';
import { ExamsPage } from '@/ui/exam/ExamsPage';
import { orNotFound, pageContext } from '../../../request';
import { archive, beginExam, duplicate } from './actions';

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
      begin={beginExam.bind(null, courseId)}
      duplicate={duplicate.bind(null, courseId)}
      archive={archive.bind(null, courseId)}
    />
  );
}
