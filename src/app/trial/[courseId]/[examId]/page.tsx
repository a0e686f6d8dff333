import type { Metadata } from 'next';
import { trialBeginning } from '@/server/attempt/trial';
import { TrialPage } from '@/ui/exam/TrialPage';
import { commandsIn } from '../../../commands';
import { orNotFound, pageContext } from '../../../request';

export const metadata: Metadata = { title: 'Trial' };

/** The exam on the real taking page, for its instructor, or a colleague asked to look at it, to try. Nothing of it is stored. */
export default async function Trial({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; examId: string }>;
  searchParams: Promise<{ paper?: string }>;
}) {
  const { courseId, examId } = await params;
  const { title, composes } = orNotFound(trialBeginning(await pageContext(), courseId, examId));
  const paper = Math.min(9_999, Math.max(1, Math.trunc(Number((await searchParams).paper)) || 1));
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
}
