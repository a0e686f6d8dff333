import { orNotFound, page } from '@/app/pages';
import { rehearsalBeginning } from '@/server/exam/rehearsalMaterial';
import { RehearsalPage } from '@/ui/exam/rehearsal/RehearsalPage';

export const metadata = { title: 'Rehearsal' };

export default page<'courseId' | 'examId'>((context, { courseId, examId }) => {
  const beginning = orNotFound(rehearsalBeginning(context, courseId, examId));
  return <RehearsalPage base={`/c/${courseId}/exams/${examId}`} {...beginning} />;
});
