import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeRoom } from '@/server/room/room';
import { roomLog } from '@/server/room/roomLog';
import { RoomPage } from '@/ui/room/RoomPage';

export const metadata = { title: 'In the room' };

export default page<'courseId' | 'sittingId'>((context, where) => {
  const { courseId, sittingId } = where;
  const room = orNotFound(seeRoom(context, courseId, sittingId));
  const log = orNotFound(roomLog(context, courseId, sittingId));
  const here = `/c/${courseId}/sittings/${sittingId}`;
  return (
    <RoomPage
      back={here}
      live={`${here}/room/live`}
      room={room}
      log={log}
      commands={commandsIn(
        { courseId, sittingId },
        'addTime',
        'handInFor',
        'reopen',
        'voidAttempt',
        'restoreAttempt',
        'letThrough',
        'addNote',
        'seeKeptAside',
        'decideAside',
        'settleIncident',
        'beforeReopening',
      )}
    />
  );
});
