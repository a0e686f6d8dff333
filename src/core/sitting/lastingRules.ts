import { z } from 'zod';
import { minute } from '../base/time';
import { learnings, type ReleasePlan } from '../release/plan';
import { releasePlanSchema } from '../release/planSchema';
import { lastingPlan, samePlan } from '../release/planShift';
import { scoreOnPublishing } from '../release/visibleTo';
import { attemptCountings, type FurtherRules, noFurtherRules, type RuleOfOneRoom, type SittingRules } from './rules';

const wholeNumber = z.number({ message: 'Give a whole number.' }).int('Give a whole number.');
const minutes = wholeNumber.min(1, 'At least one minute.').max(90 * 24 * 60, 'At most 90 days.');
const share = z.number({ message: 'Give a number.' }).min(0, 'At least 0 %.').max(1, 'At most 100 %.');

/** The further rules of a sitting that have nothing to do with one day or one room. */
export const lastingRules = z.object({
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
} satisfies Record<Exclude<keyof FurtherRules, RuleOfOneRoom>, z.ZodType>);

type LastingRules = z.output<typeof lastingRules>;

/** A time limit in minutes; null for none. */
export const limitMinutes = wholeNumber
  .min(1, 'A time limit is at least one minute.')
  .max(7 * 24 * 60, 'At most a week.')
  .nullable();

/** How many attempts; null for as many as wanted. */
export const attemptsLimit = wholeNumber
  .min(1, 'Allow at least one attempt.')
  .max(100, 'At most 100, or any number.')
  .nullable();

/** The rules under which an exam is usually given: a new sitting begins with them. */
export const usualRules = z.object({
  timeLimitMinutes: limitMinutes,
  attemptsAllowed: attemptsLimit,
  attemptCounts: z.enum(attemptCountings),
  /** Absent: never past the closing. */
  fullTimeOnceStarted: z.boolean().optional(),
  /** What differs from {@link noFurtherRules}; absent: nothing. */
  further: lastingRules.partial().optional(),
  /** Absent: the score on publishing. */
  releasePlan: releasePlanSchema.optional(),
});

/** What sittings of an exam usually begin with. */
export type UsualRules = z.output<typeof usualRules>;

/** What a sitting begins with where its exam says nothing. */
export const noUsualRules: UsualRules = { timeLimitMinutes: null, attemptsAllowed: 1, attemptCounts: 'best' };

/** What of a sitting's rules can hold for every sitting of its exam: all but moments, code, networks and shut days. */
export function usualFrom(rules: SittingRules, plan: ReleasePlan = scoreOnPublishing): UsualRules {
  const releasePlan = lastingPlan(plan);
  const further = Object.fromEntries(
    Object.entries(lastingRules.parse(rules)).filter(
      ([name, value]) => JSON.stringify(value) !== JSON.stringify(noFurtherRules[name as keyof FurtherRules]),
    ),
  ) as Partial<LastingRules>;
  return {
    timeLimitMinutes: rules.timeLimit === null ? null : rules.timeLimit / minute,
    attemptsAllowed: rules.attemptsAllowed,
    attemptCounts: rules.attemptCounts,
    ...(rules.fullTimeOnceStarted ? { fullTimeOnceStarted: true } : {}),
    ...(Object.keys(further).length ? { further } : {}),
    ...(samePlan(releasePlan, scoreOnPublishing) ? {} : { releasePlan }),
  };
}

/** Whether two sets of usual rules say the same. */
export function sameUsual(a: UsualRules, b: UsualRules): boolean {
  const whole = ({ further, releasePlan, fullTimeOnceStarted = false, ...rest }: UsualRules) => ({
    fullTimeOnceStarted,
    ...rest,
  });
  const all = ({ further }: UsualRules) => ({ ...noFurtherRules, ...further });
  const said = (usual: UsualRules) =>
    JSON.stringify([Object.entries(whole(usual)).sort(), Object.entries(all(usual)).sort()]);
  return said(a) === said(b) && samePlan(a.releasePlan ?? scoreOnPublishing, b.releasePlan ?? scoreOnPublishing);
}
