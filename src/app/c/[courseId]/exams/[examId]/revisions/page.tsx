import type { Metadata } from 'next';
import { examRevisions } from '@/server/exam/revisions';
import { seeCourse } from '@/server/people/courses';
import { RevisionsPage } from '@/ui/exam/RevisionsPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Revisions' };

export default async function Revisions({ params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const { courseId, examId } = await params;
  const context = await pageContext();
  const { role } = orNotFound(seeCourse(context, courseId));
  return (
    <RevisionsPage
      base={`/c/${courseId}`}
      examId={examId}
      exam={orNotFound(examRevisions(context, courseId, examId))}
      mayChange={role === 'instructor'}
      {...commandsIn({ courseId }, 'takeUpRevision')}
    />
  );
}
