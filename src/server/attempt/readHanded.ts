import { z } from 'zod';

/** More places than any paper has. */
const most = 10_000;

const answer = z.object({ slotId: z.string().max(60), value: z.unknown() });

/**
 * What comes with a hand-in, by slot; what cannot be read of it is left out, so that a hand-in is never lost for it.
 * `answers` are those of an anonymous attempt; `inView` is how long each question stood alone in view, in milliseconds, as
 * the browser counted.
 */
export const handedInput = z
  .object({
    answers: z.array(answer).max(most).catch([]).default([]),
    inView: z.record(z.string().max(60), z.number()).catch({}).default({}),
  })
  .catch({ answers: [], inView: {} })
  .prefault({})
  .transform(({ answers, inView }) => ({
    answers: new Map(answers.map(({ slotId, value }) => [slotId, value])),
    inView: new Map(Object.entries(inView).slice(0, most)),
  }));

export type Handed = z.output<typeof handedInput>;
