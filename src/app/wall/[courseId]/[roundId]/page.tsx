import { orNotFound, page } from '@/app/pages';
import { ownOrigin } from '@/app/request';
import { seeWall } from '@/server/round/wall';
import { RoundWall } from '@/ui/round/RoundWall';

export const metadata = { title: 'Wall' };

/** The wall of a round, for a projector. */
export default page<'courseId' | 'roundId'>(async (context, { courseId, roundId }) => (
  <RoundWall
    live={`/wall/${courseId}/${roundId}/live`}
    origin={await ownOrigin()}
    begun={orNotFound(seeWall(context, courseId, roundId))}
  />
));
