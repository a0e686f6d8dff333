import { z } from 'zod';
import { id } from '@/core/base/id';
import { releasePlanSchema, selfPublishSchema } from '@/core/release/planSchema';
import { attemptsLimit, lastingRules, limitMinutes } from '@/core/sitting/lastingRules';
import { readNetwork } from '@/core/sitting/networks';
import { attemptCountings, type RuleOfOneRoom } from '@/core/sitting/rules';
import { dayOf } from '@/core/sitting/teachingWeeks';

const localMoment = z.string().max(16);

export const entryCode = z.string().trim().max(40, 'At most 40 characters.');
export const networks = z
  .array(
    z
      .string()
      .trim()
      .refine((text) => readNetwork(text) !== null, 'This is not a network range such as 10.1.0.0/16.'),
  )
  .max(50, 'At most 50 ranges.');

const further = lastingRules
  .extend({
    entryCode,
    networks,
    shutDays: z
      .array(z.string().refine((text) => dayOf(text) !== null, 'This is not a day of the calendar.'))
      .max(100, 'At most 100 days.'),
  } satisfies Record<RuleOfOneRoom, z.ZodType>)
  .partial();

const who = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('course') }),
  z.object({
    kind: z.literal('some'),
    sectionIds: z.array(id('section')).max(200),
    studentIds: z.array(id('user')).max(600),
  }),
  z.object({ kind: z.literal('link') }),
]);

/** Whom a sitting is given to. */
export type Who = z.output<typeof who>;

const completion = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('when-marked') }),
  z.strictObject({
    kind: z.literal('when-passed'),
    percent: z.number().min(0, 'From 0 to 100 %.').max(100, 'From 0 to 100 %.'),
  }),
]);

/** A change of a sitting's rules; what is not named stays. Moments are local to the course's zone, empty for none. */
export const rulesInput = z
  .object({
    title: z.string().trim().min(1, 'Give the sitting a title.').max(160, 'At most 160 characters.'),
    opens: localMoment,
    lastStart: localMoment,
    due: localMoment,
    closes: localMoment,
    timeLimitMinutes: limitMinutes,
    fullTimeOnceStarted: z.boolean(),
    attemptsAllowed: attemptsLimit,
    attemptCounts: z.enum(attemptCountings),
    further,
    nextTask: z.string().trim().max(600, 'At most 600 characters.'),
    who,
    markerIds: z.array(id('user')).max(50),
    releasePlan: releasePlanSchema,
    selfPublish: selfPublishSchema,
    completion: completion.nullable(),
  })
  .partial();

export type RulesInput = z.output<typeof rulesInput>;
