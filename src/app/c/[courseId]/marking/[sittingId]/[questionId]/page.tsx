import type { Metadata } from 'next';
import { answersToMark } from '@/server/marking/markAnswers';
import { MarkingPage } from '@/ui/marking/MarkingPage';
import { orNotFound, pageContext } from '../../../../../request';
import { mark } from '../../actions';

export const metadata: Metadata = { title: 'Marking' };

export default async function MarkQuestion({
  params,
}: {
  params: Promise<{ courseId: string; sittingId: string; questionId: string }>;
}) {
  const { courseId, sittingId, questionId } = await params;
  const page = orNotFound(answersToMark(await pageContext(), courseId, sittingId, questionId));
  return <MarkingPage base={`/c/${courseId}/marking`} page={page} mark={mark.bind(null, courseId)} />;
}
