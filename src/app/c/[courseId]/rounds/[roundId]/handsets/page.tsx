import { commandsIn, orNotFound, page } from '@/app/pages';
import { ownOrigin } from '@/app/request';
import { seeHandsets } from '@/server/round/handsets';
import { HandsetsPage } from '@/ui/round/HandsetsPage';

export const metadata = { title: 'Made-up handsets' };

export default page<'courseId' | 'roundId'>(async (context, { courseId, roundId }) => (
  <HandsetsPage
    back={`/c/${courseId}/rounds/${roundId}`}
    roundId={roundId}
    origin={await ownOrigin()}
    handsets={orNotFound(seeHandsets(context, courseId, roundId))}
    commands={commandsIn({ courseId, roundId }, 'bringHandsets')}
  />
));
