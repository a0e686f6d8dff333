import type { Metadata } from 'next';
import { responsesTo } from '@/server/marking/responses';
import { ResponsesPage } from '@/ui/marking/ResponsesPage';
import { commandsIn } from '../../../../../../commands';
import { orNotFound, pageContext } from '../../../../../../request';

export const metadata: Metadata = { title: 'Answers to a question' };

export default async function Responses({
  params,
}: {
  params: Promise<{ courseId: string; sittingId: string; questionId: string }>;
}) {
  const { courseId, sittingId, questionId } = await params;
  const page = orNotFound(responsesTo(await pageContext(), courseId, sittingId, questionId));
  const marking = `/c/${courseId}/marking`;
  return (
    <ResponsesPage
      back={{ href: `/c/${courseId}/sittings/${sittingId}/answers`, name: 'All answers' }}
      papers={`${marking}/${sittingId}/students`}
      remark={`${marking}/questions/${questionId}`}
      page={page}
      commands={commandsIn({ courseId, sittingId }, 'previewAccept', 'acceptAnswer', 'undoChange')}
    />
  );
}
