import { orNotFound, page } from '@/app/pages';
import { ownOrigin } from '@/app/request';
import { seeWall } from '@/server/round/wall';
import { WallPage } from '@/ui/round/WallPage';

export const metadata = { title: 'Wall' };

/** The wall of a round, for a projector. */
export default page<'courseId' | 'roundId'>(async (context, { courseId, roundId }) => (
  <WallPage
    live={`/wall/${courseId}/${roundId}/live`}
    origin={await ownOrigin()}
    begun={orNotFound(seeWall(context, courseId, roundId))}
  />
));
