import { and, asc, eq } from 'drizzle-orm';
import { createEvents, type EventAttributes } from 'ics';
import { ok, type Result } from '@/core/base/result';
import { durationText, hour, type Instant, momentText } from '@/core/base/time';
import { closesFor, limitFor, opensFor } from '@/core/sitting/clock';
import { type Arrangement, noArrangement } from '@/core/sitting/rules';
import { course, sitting } from '@/db/schema';
import type { Context } from '../house/context';
import { query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { rulesOf, type SittingRow, sittingsFor } from '../records/audience';

/** What has no opening, or no closing, is entered as an hour at the moment it does have. */
const standIn = hour;

/** The window of a sitting as an event of a calendar (RFC 5545); null where it has neither opening nor closing. */
function eventOf(row: SittingRow, arrangement: Arrangement, courseName: string, zone: string): EventAttributes | null {
  const rules = rulesOf(row);
  const opens = opensFor(rules, arrangement);
  const closes = closesFor(rules, arrangement);
  if (opens === null && closes === null) return null;
  const start: Instant = opens ?? (closes as Instant) - standIn;
  const limit = limitFor(rules, arrangement);
  const said = [
    courseName,
    opens === null ? 'Open already.' : `Opens ${momentText(opens, zone)} (${zone}).`,
    closes === null ? 'It never closes.' : `Closes ${momentText(closes, zone)} (${zone}).`,
    limit === null ? 'No time limit.' : `${durationText(limit)} from the start.`,
  ];
  return {
    uid: `${row.id}@wuzzen`,
    productId: 'wuzzen',
    title: row.title,
    description: said.join('\n'),
    start,
    startInputType: 'utc',
    end: closes ?? start + standIn,
    endInputType: 'utc',
    status: row.state === 'cancelled' ? 'CANCELLED' : 'CONFIRMED',
    busyStatus: 'BUSY',
  };
}

function calendarOf(events: (EventAttributes | null)[]): string {
  const { value, error } = createEvents(events.filter((event) => event !== null));
  if (error) throw error;
  return value ?? '';
}

/** The windows of everything a student is given, each with their own times, as a calendar file. */
export function myCalendar(context: Context): string {
  const names = new Map(
    context.db
      .select({ id: course.id, name: course.name })
      .from(course)
      .all()
      .map((row) => [row.id, row.name]),
  );
  return calendarOf(
    sittingsFor(context.db, context.actor.userId)
      .filter((one) => !one.arrangement.excused)
      .map(({ sitting: row, arrangement, timeZone }) =>
        eventOf(row, arrangement, names.get(row.courseId) ?? '', timeZone),
      ),
  );
}

/** The windows of all scheduled sittings of a course, as a calendar file. */
export const courseCalendar = query({
  admits: toCourse('sitting.see'),
  does({ courseId, context, courseName, timeZone }): Result<string> {
    const rows = context.db
      .select()
      .from(sitting)
      .where(and(eq(sitting.courseId, courseId), eq(sitting.state, 'scheduled')))
      .orderBy(asc(sitting.opens))
      .all();
    return ok(calendarOf(rows.map((row) => eventOf(row, noArrangement, courseName, timeZone))));
  },
});
