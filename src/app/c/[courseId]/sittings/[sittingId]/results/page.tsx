import type { Metadata } from 'next';
import { seeCourse } from '@/server/people/courses';
import { repliesTo } from '@/server/release/replies';
import { sittingResults } from '@/server/release/results';
import { ResultsPage } from '@/ui/release/ResultsPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Results' };

export default async function Results({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const context = await pageContext();
  const { role } = orNotFound(seeCourse(context, courseId));
  const results = orNotFound(sittingResults(context, courseId, sittingId));
  const replies = repliesTo(context, courseId, sittingId);
  return (
    <ResultsPage
      base={`/c/${courseId}`}
      sittingId={sittingId}
      results={results}
      replies={replies.ok ? replies.value : []}
      mayPublish={role === 'instructor'}
      commands={commandsIn(
        { courseId, sittingId },
        'publishReady',
        'withdrawPublished',
        'writeToStudents',
        'readReplies',
      )}
    />
  );
}
