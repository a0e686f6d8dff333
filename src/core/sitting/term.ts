import { z } from 'zod';
import { dayOf } from './teachingWeeks';

const calendarDay = z.string().refine((text) => dayOf(text) !== null, 'This is not a day of the calendar.');

const freeDays = z
  .object({
    from: calendarDay,
    to: calendarDay,
    name: z.string().trim().max(60, 'At most 60 characters.').default(''),
  })
  .refine((free) => (dayOf(free.to) ?? 0) >= (dayOf(free.from) ?? 0), {
    message: 'It ends before it begins.',
    path: ['to'],
  })
  .refine((free) => (dayOf(free.to) ?? 0) - (dayOf(free.from) ?? 0) < 200, {
    message: 'At most 200 days at a time.',
    path: ['to'],
  });

/** When a course teaches; see {@link ./teachingWeeks}. */
export const termInput = z.object({
  firstDay: calendarDay,
  freeDays: z.array(freeDays).max(60, 'At most 60 times without teaching.'),
});
