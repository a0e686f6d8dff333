import { commandsIn, orNotFound, page } from '@/app/pages';
import { examRevisions } from '@/server/exam/revisions';
import { seeCourse } from '@/server/people/courses';
import { RevisionsPage } from '@/ui/exam/RevisionsPage';

export const metadata = { title: 'Revisions' };

export default page<'courseId' | 'examId'>((context, { courseId, examId }) => {
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
});
