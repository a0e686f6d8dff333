import { commandsIn, orNotFound, page } from '@/app/pages';
import { openLook } from '@/server/exam/looks';
import { LookPage } from '@/ui/exam/LookPage';

export const metadata = { title: 'A colleague’s look' };

export default page<'courseId' | 'examId'>((context, { courseId, examId }) => {
  return (
    <LookPage
      base={`/c/${courseId}`}
      examId={examId}
      look={orNotFound(openLook(context, courseId, examId))}
      commands={commandsIn({ courseId, examId }, 'askForLook', 'withdrawLook', 'remark', 'settleRemark', 'signOff')}
    />
  );
});
