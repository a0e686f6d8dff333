import type { Metadata } from 'next';
import { seeCourse } from '@/server/people/courses';
import { questionGrid } from '@/server/release/questionGrid';
import { QuestionGridPage } from '@/ui/release/QuestionGridPage';
import { commandsIn } from '../../../../../../commands';
import { orNotFound, pageContext } from '../../../../../../request';

export const metadata: Metadata = { title: 'Results by question' };

export default async function Questions({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const context = await pageContext();
  const { role } = orNotFound(seeCourse(context, courseId));
  return (
    <QuestionGridPage
      base={`/c/${courseId}`}
      sittingId={sittingId}
      results={orNotFound(questionGrid(context, courseId, sittingId))}
      mayPick={role === 'instructor'}
      {...commandsIn({ courseId, sittingId }, 'writeToStudents')}
    />
  );
}
