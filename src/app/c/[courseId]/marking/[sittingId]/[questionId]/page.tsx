import type { Metadata } from 'next';
import { answersToMark, type MarkingOrder, markingOrders } from '@/server/marking/answersToMark';
import { MarkingPage } from '@/ui/marking/MarkingPage';
import { orNotFound, pageContext } from '../../../../../request';
import { markingCommands } from '../commands';

export const metadata: Metadata = { title: 'Marking' };

export default async function MarkQuestion({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; sittingId: string; questionId: string }>;
  searchParams: Promise<{ order?: string }>;
}) {
  const { courseId, sittingId, questionId } = await params;
  const asked = (await searchParams).order as MarkingOrder;
  const order = markingOrders.includes(asked) ? asked : 'mixed';
  const page = orNotFound(answersToMark(await pageContext(), courseId, sittingId, questionId, order));
  return (
    <MarkingPage
      key={order}
      base={`/c/${courseId}/marking`}
      here={`/c/${courseId}/marking/${sittingId}`}
      page={page}
      by="question"
      order={order}
      commands={markingCommands(courseId, sittingId)}
    />
  );
}
