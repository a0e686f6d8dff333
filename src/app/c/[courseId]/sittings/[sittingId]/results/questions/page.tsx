import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeCourse } from '@/server/people/courses';
import { questionGrid } from '@/server/release/questionGrid';
import { QuestionGridPage } from '@/ui/release/QuestionGridPage';

export const metadata = { title: 'Results by question' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
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
});
