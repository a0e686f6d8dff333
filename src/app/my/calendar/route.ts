import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { myCalendar } from '@/server/sitting/calendar';
import { calendarReply } from '../../api/calendarReply';
import { refuse } from '../../api/reply';

/** The student's own exams as a calendar file. */
export async function GET(request: Request) {
  const actor = await actorOf(request.headers);
  return actor
    ? calendarReply(myCalendar(contextFor(actor, request.headers)), 'my-exams')
    : refuse('not-allowed', 'You are signed out.');
}
