import type { Metadata } from 'next';
import { papersToMark } from '@/server/marking/answersToMark';
import { OfflinePage } from '@/ui/marking/OfflinePage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Marking offline' };

export default async function Offline({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const { sittingTitle, heads } = orNotFound(papersToMark(await pageContext(), courseId, sittingId));
  return (
    <OfflinePage
      back={{ href: `/c/${courseId}/marking`, name: 'Marking' }}
      here={`/c/${courseId}/marking/${sittingId}/offline`}
      title={sittingTitle}
      answers={heads.length}
      waiting={heads.filter((head) => head.points === null).length}
      {...commandsIn({ courseId }, 'undoChange')}
    />
  );
}
