import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeHeldBack, seeRound } from '@/server/round/grid';
import { LeadPage } from '@/ui/round/LeadPage';

export const metadata = { title: 'Round' };

export default page<'courseId' | 'roundId'>((context, { courseId, roundId }) => (
  <LeadPage
    here={`/c/${courseId}/rounds/${roundId}`}
    courseId={courseId}
    wall={`/wall/${courseId}/${roundId}`}
    begun={orNotFound(seeRound(context, courseId, roundId))}
    held={orNotFound(seeHeldBack(context, courseId, roundId))}
    commands={commandsIn(
      { courseId, roundId, sittingId: roundId },
      'acknowledge',
      'askAnother',
      'giveKey',
      'renameDevice',
      'sendOut',
      'changeRound',
    )}
  />
));
