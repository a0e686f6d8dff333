import type { Metadata } from 'next';
import { rehearsalBeginning } from '@/server/exam/rehearsalMaterial';
import { TrialPage } from '@/ui/exam/TrialPage';
import { orNotFound, pageContext } from '../../../request';
import { open, right, score, show } from './actions';

export const metadata: Metadata = { title: 'Trial' };

/** The exam on the real taking page, for its instructor to try. Nothing of it is stored. */
export default async function Trial({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; examId: string }>;
  searchParams: Promise<{ paper?: string }>;
}) {
  const { courseId, examId } = await params;
  const { title } = orNotFound(rehearsalBeginning(await pageContext(), courseId, examId));
  const paper = Math.min(9_999, Math.max(1, Math.trunc(Number((await searchParams).paper)) || 1));
  const seed = String(paper);
  return (
    <TrialPage
      key={seed}
      base={`/c/${courseId}`}
      exam={`/c/${courseId}/exams/${examId}`}
      title={title}
      next={`/trial/${courseId}/${examId}?paper=${paper + 1}`}
      open={open.bind(null, courseId, examId, seed)}
      show={show.bind(null, courseId, examId, seed)}
      right={right.bind(null, courseId, examId, seed)}
      score={score.bind(null, courseId, examId, seed)}
    />
  );
}
