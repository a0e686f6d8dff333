import type { Metadata } from 'next';
import { seeRoom } from '@/server/sitting/room';
import { roomLog } from '@/server/sitting/roomLog';
import { RoomPage } from '@/ui/room/RoomPage';
import { orNotFound, pageContext } from '../../../../../request';
import { asideOf, decide, giveTime, handInOf, letOneThrough, note, openAgain, restoreOne, voidOne } from './actions';

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
      commands={{
        giveTime: giveTime.bind(null, where),
        handIn: handInOf.bind(null, where),
        reopen: openAgain.bind(null, where),
        voidOne: voidOne.bind(null, where),
        restore: restoreOne.bind(null, where),
        letThrough: letOneThrough.bind(null, where),
        note: note.bind(null, where),
        aside: asideOf.bind(null, where),
        decide: decide.bind(null, where),
      }}
    />
  );
}
