import { z } from 'zod';
import { readNetwork } from '@/core/sitting/networks';
import { attemptCountings, learnings } from '@/core/sitting/rules';
import { dayOf } from '@/core/sitting/teachingWeeks';

const localMoment = z.string().max(16);
const wholeNumber = z.number({ message: 'Give a whole number.' }).int('Give a whole number.');
const minutes = wholeNumber.min(1, 'At least one minute.').max(90 * 24 * 60, 'At most 90 days.');
const share = z.number({ message: 'Give a number.' }).min(0, 'At least 0 %.').max(1, 'At most 100 %.');
const ids = (most: number) => z.array(z.string().max(40)).max(most);

export const entryCode = z.string().trim().max(40, 'At most 40 characters.');
export const networks = z
  .array(
    z
      .string()
      .trim()
      .refine((text) => readNetwork(text) !== null, 'This is not a network range such as 10.1.0.0/16.'),
  )
  .max(50, 'At most 50 ranges.');

const further = z
  .object({
    expiry: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('hand-in') }),
      z.object({
        kind: z.literal('grace'),
        minutes: wholeNumber.min(1, 'At least one minute.').max(120, 'At most two hours.'),
      }),
    ]),
    between: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('none') }),
      z.object({ kind: z.literal('wait'), minutes: z.array(minutes).min(1).max(10) }),
      z.object({ kind: z.literal('let-through') }),
    ]),
    nextPaper: z.enum(['new', 'same']),
    tries: z
      .object({ most: wholeNumber.min(1, 'At least one try.').max(20, 'At most 20 tries.'), cost: share })
      .nullable(),
    missedAgain: z
      .object({ most: wholeNumber.min(1, 'At least one.').max(200, 'At most 200.'), credit: share })
      .nullable(),
    learning: z.enum(learnings),
    onwardOnly: z.boolean(),
    minutesPerQuestion: z
      .number({ message: 'Give a number.' })
      .min(0.25, 'At least a quarter of a minute.')
      .max(600, 'At most ten hours.')
      .nullable(),
    entryCode,
    networks,
    shutDays: z
      .array(z.string().refine((text) => dayOf(text) !== null, 'This is not a day of the calendar.'))
      .max(100, 'At most 100 days.'),
  })
  .partial();

const who = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('course') }),
  z.object({ kind: z.literal('some'), sectionIds: ids(200), studentIds: ids(600) }),
  z.object({ kind: z.literal('link') }),
]);

/** Whom a sitting is given to. */
export type Who = z.output<typeof who>;

/** A change of a sitting's rules; what is not named stays. Moments are local to the course's zone, empty for none. */
export const rulesInput = z
  .object({
    title: z.string().trim().min(1, 'Give the sitting a title.').max(160, 'At most 160 characters.'),
    opens: localMoment,
    lastStart: localMoment,
    due: localMoment,
    closes: localMoment,
    timeLimitMinutes: wholeNumber
      .min(1, 'A time limit is at least one minute.')
      .max(7 * 24 * 60, 'At most a week.')
      .nullable(),
    fullTimeOnceStarted: z.boolean(),
    attemptsAllowed: wholeNumber
      .min(1, 'Allow at least one attempt.')
      .max(100, 'At most 100, or any number.')
      .nullable(),
    attemptCounts: z.enum(attemptCountings),
    further,
    nextTask: z.string().trim().max(600, 'At most 600 characters.'),
    who,
    markerIds: ids(50),
  })
  .partial();

export type RulesInput = z.output<typeof rulesInput>;
