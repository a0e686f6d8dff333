import { orNotFound, page } from '@/app/pages';
import { papersToMark } from '@/server/marking/answersToMark';
import { MarkingPage } from '@/ui/marking/MarkingPage';
import { markingCommands } from '../commands';

export const metadata = { title: 'Marking, paper by paper' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const shown = orNotFound(papersToMark(context, courseId, sittingId));
  return (
    <MarkingPage
      base={`/c/${courseId}/marking`}
      here={`/c/${courseId}/marking/${sittingId}`}
      page={shown}
      by="paper"
      order="mixed"
      commands={markingCommands(courseId, sittingId)}
    />
  );
});
