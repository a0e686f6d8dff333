import { commandsIn, orNotFound, page } from '@/app/pages';
import { listExams } from '@/server/exam/exams';
import { seeCourse } from '@/server/people/courses';
import { ExamsPage } from '@/ui/exam/ExamsPage';

export const metadata = { title: 'Exams' };

export default page<'courseId'>((context, { courseId }) => {
  const { role } = orNotFound(seeCourse(context, courseId));
  return (
    <ExamsPage
      base={`/c/${courseId}/exams`}
      exams={orNotFound(listExams(context, courseId))}
      mayChange={role === 'instructor'}
      {...commandsIn({ courseId }, 'createExam', 'duplicateExam', 'archiveExam')}
    />
  );
});
