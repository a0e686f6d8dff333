import type { Metadata } from 'next';
import { answersToSecond } from '@/server/marking/secondMarking';
import { MarkingPage } from '@/ui/marking/MarkingPage';
import { orNotFound, pageContext } from '../../../../../../request';
import { moreSecond, secondMark } from '../../../actions';
import { markingCommands } from '../../commands';

export const metadata: Metadata = { title: 'Second marking' };

export default async function MarkSecond({
  params,
}: {
  params: Promise<{ courseId: string; sittingId: string; questionId: string }>;
}) {
  const { courseId, sittingId, questionId } = await params;
  const page = orNotFound(answersToSecond(await pageContext(), courseId, sittingId, questionId));
  return (
    <MarkingPage
      base={`/c/${courseId}/marking`}
      here={`/c/${courseId}/marking/${sittingId}`}
      page={page}
      by="question"
      order="mixed"
      second
      commands={{
        ...markingCommands(courseId, sittingId),
        mark: secondMark.bind(null, courseId),
        more: moreSecond.bind(null, courseId, sittingId),
      }}
    />
  );
}
