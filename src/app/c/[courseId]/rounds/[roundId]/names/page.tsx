import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeMatching } from '@/server/round/people';
import { NamesPage } from '@/ui/round/NamesPage';

export const metadata = { title: 'Names and the roster' };

export default page<'courseId' | 'roundId'>((context, { courseId, roundId }) => (
  <NamesPage
    back={`/c/${courseId}/rounds/${roundId}/after`}
    matching={orNotFound(seeMatching(context, courseId, roundId))}
    commands={commandsIn({ courseId, roundId }, 'matchNames', 'undoChange')}
  />
));
