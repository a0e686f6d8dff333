import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeCourse } from '@/server/people/courses';
import { repliesTo } from '@/server/release/replies';
import { sittingResults } from '@/server/release/results';
import { ResultsPage } from '@/ui/release/ResultsPage';

export const metadata = { title: 'Results' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
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
        'answerReply',
        'setNameOrder',
      )}
    />
  );
});
