import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { courseCalendar } from '@/server/sitting/calendar';
import { calendarReply } from '../../../../api/calendarReply';
import { refuse, reply } from '../../../../api/reply';

/** The sittings of a course as a calendar file. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'You are signed out.');
  const calendar = courseCalendar(contextFor(actor, request.headers), (await params).courseId);
  return calendar.ok ? calendarReply(calendar.value, 'sittings') : reply(calendar);
}
