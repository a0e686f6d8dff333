import { commandsIn, orNotFound, page } from '@/app/pages';
import { papersToMark } from '@/server/marking/answersToMark';
import { OfflinePage } from '@/ui/marking/OfflinePage';

export const metadata = { title: 'Marking offline' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const { sittingTitle, heads } = orNotFound(papersToMark(context, courseId, sittingId));
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
});
