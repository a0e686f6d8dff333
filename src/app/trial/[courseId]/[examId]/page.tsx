import { commandsIn, orNotFound, page } from '@/app/pages';
import { trialBeginning } from '@/server/attempt/trial';
import { TrialPage } from '@/ui/exam/TrialPage';

export const metadata = { title: 'Trial' };

/** The exam on the real taking page, for its instructor, or a colleague asked to look at it, to try. Nothing of it is stored. */
export default page<'courseId' | 'examId'>((context, { courseId, examId }, asked) => {
  const { title, composes } = orNotFound(trialBeginning(context, courseId, examId));
  const paper = Math.min(9_999, Math.max(1, Math.trunc(Number(asked.paper)) || 1));
  const seed = String(paper);
  return (
    <TrialPage
      key={seed}
      base={`/c/${courseId}`}
      exam={`/c/${courseId}/exams/${examId}${composes ? '' : '/look'}`}
      title={title}
      next={`/trial/${courseId}/${examId}?paper=${paper + 1}`}
      seed={seed}
      {...commandsIn({ courseId, examId }, 'openTrial', 'openTrialQuestion', 'rightAnswers', 'scoreTrial')}
    />
  );
});
