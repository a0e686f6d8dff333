import { z } from 'zod';

/** More places than any paper has. */
const most = 10_000;

const answer = z.object({ slotId: z.string().max(60), value: z.unknown() });

/**
 * What comes with a hand-in, by slot; what cannot be read of it is left out, so that a hand-in is never lost for it.
 * `answers` are those of an anonymous attempt; `inView` is how long each question stood alone in view, in milliseconds, as
 * the browser counted. `byClock`: the open page hands in because the time is over. `pressedAt`: when its student asked for
 * it, by the browser's idea of the server's clock. `epoch`: the writer epoch of the page, where it has one.
 */
export const handedInput = z
  .object({
    answers: z.array(answer).max(most).catch([]).default([]),
    inView: z.record(z.string().max(60), z.number()).catch({}).default({}),
    byClock: z.boolean().catch(false).default(false),
    pressedAt: z.int().nullable().catch(null).default(null),
    epoch: z.int().nullable().catch(null).default(null),
  })
  .catch({ answers: [], inView: {}, byClock: false, pressedAt: null, epoch: null })
  .prefault({})
  .transform(({ answers, inView, ...how }) => ({
    ...how,
    answers: new Map(answers.map(({ slotId, value }) => [slotId, value])),
    inView: new Map(Object.entries(inView).slice(0, most)),
  }));

export type Handed = z.output<typeof handedInput>;
