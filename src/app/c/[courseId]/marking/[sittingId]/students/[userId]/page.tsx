import type { Metadata } from 'next';
import { markedPaper } from '@/server/marking/responses';
import { MarkedPaperPage } from '@/ui/marking/MarkedPaperPage';
import { commandsIn } from '../../../../../../commands';
import { orNotFound, pageContext } from '../../../../../../request';

export const metadata: Metadata = { title: 'A marked paper' };

export default async function Marked({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; sittingId: string; userId: string }>;
  searchParams: Promise<{ attempt?: string }>;
}) {
  const { courseId, sittingId, userId } = await params;
  const asked = Number.parseInt((await searchParams).attempt ?? '', 10);
  const paper = orNotFound(
    markedPaper(await pageContext(), courseId, sittingId, userId, Number.isNaN(asked) ? null : asked),
  );
  const marking = `/c/${courseId}/marking/${sittingId}`;
  return (
    <MarkedPaperPage
      key={paper.attemptId}
      back={{ href: `/c/${courseId}/sittings/${sittingId}/results`, name: 'Results' }}
      here={`${marking}/students/${userId}`}
      responses={marking}
      paper={paper}
      commands={commandsIn({ courseId }, 'adjustMark', 'adjustPaper')}
    />
  );
}
