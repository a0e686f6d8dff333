import type { Metadata } from 'next';
import { seeRoom } from '@/server/room/room';
import { roomLog } from '@/server/room/roomLog';
import { RoomPage } from '@/ui/room/RoomPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'In the room' };

export default async function RoomOfSitting({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const where = await params;
  const { courseId, sittingId } = where;
  const context = await pageContext();
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
      )}
    />
  );
}
