import type { Metadata } from 'next';
import { papersToMark } from '@/server/marking/answersToMark';
import { MarkingPage } from '@/ui/marking/MarkingPage';
import { orNotFound, pageContext } from '../../../../../request';
import { markingCommands } from '../commands';

export const metadata: Metadata = { title: 'Marking, paper by paper' };

export default async function MarkPapers({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const page = orNotFound(papersToMark(await pageContext(), courseId, sittingId));
  return (
    <MarkingPage
      base={`/c/${courseId}/marking`}
      here={`/c/${courseId}/marking/${sittingId}`}
      page={page}
      by="paper"
      order="mixed"
      commands={markingCommands(courseId, sittingId)}
    />
  );
}
