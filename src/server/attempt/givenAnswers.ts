import { z } from 'zod';

/** Answers as a page holds them that stores nothing, by slot: of a trial, and of the try-out. */
export const givenAnswers = z
  .array(z.object({ slotId: z.string().max(120), value: z.unknown() }))
  .max(1_000)
  .transform((given) => new Map(given.map(({ slotId, value }) => [slotId, value])));
