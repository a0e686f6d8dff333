import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeRound } from '@/server/round/grid';
import { LeadPage } from '@/ui/round/LeadPage';

export const metadata = { title: 'Round' };

export default page<'courseId' | 'roundId'>((context, { courseId, roundId }) => (
  <LeadPage
    here={`/c/${courseId}/rounds/${roundId}`}
    courseId={courseId}
    wall={`/wall/${courseId}/${roundId}`}
    begun={orNotFound(seeRound(context, courseId, roundId))}
    commands={commandsIn({ courseId, roundId }, 'askAnother', 'giveKey', 'renameDevice', 'sendOut', 'changeRound')}
  />
));
