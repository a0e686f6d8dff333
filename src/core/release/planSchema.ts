import { z } from 'zod';
import { facts, longestOnce } from './plan';

const moment = z.int().min(0).max(8_640_000_000_000_000);
const days = z.int().min(0).max(366);

const begins = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('as-they-go') }),
  z.strictObject({ kind: z.literal('on-hand-in') }),
  z.strictObject({ kind: z.literal('after-attempt'), number: z.int().min(1).max(100) }),
  z.strictObject({ kind: z.literal('after-last-attempt') }),
  z.strictObject({ kind: z.literal('over-for-everyone') }),
  z.strictObject({ kind: z.literal('at'), at: moment }),
  z.strictObject({ kind: z.literal('after-closing'), days }),
  z.strictObject({ kind: z.literal('on-publishing') }),
]);

const ends = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('at-closing') }),
  z.strictObject({ kind: z.literal('at'), at: moment }),
  z.strictObject({ kind: z.literal('after-days'), days: days.min(1) }),
  z.strictObject({ kind: z.literal('once'), minutes: z.int().min(1).max(longestOnce) }),
]);

/** A release plan as it comes from a browser. */
export const releasePlanSchema = z.partialRecord(
  z.enum(facts),
  z.array(z.strictObject({ begins, ends: ends.optional() })).max(6),
);

/** How results publish themselves, as it comes from a browser. */
export const selfPublishSchema = z.strictObject({
  kind: z.enum(['no', 'each', 'all']),
  notBefore: moment.nullable(),
});
