import { commandsIn, orNotFound, page } from '@/app/pages';
import { courseNotes } from '@/server/people/courseNotes';
import { CourseNotes } from '@/ui/people/CourseNotes';

export const metadata = { title: 'What needs a look' };

export default page<'courseId'>((context, { courseId }) => {
  const notes = orNotFound(courseNotes(context, courseId));
  return <CourseNotes base={`/c/${courseId}`} notes={notes} {...commandsIn({ courseId }, 'tickNote')} />;
});
