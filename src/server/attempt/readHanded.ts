import { z } from 'zod';
import type { Handed } from './handIn';

/** More places than any paper has. */
const most = 10_000;

const answer = z.object({ slotId: z.string().max(60), value: z.unknown() });
const handed = z.object({
  answers: z.array(answer).max(most).catch([]).default([]),
  inView: z.record(z.string().max(60), z.number()).catch({}).default({}),
});

/** Reads what came with a hand-in; what cannot be read is left out, so that a hand-in is never lost for it. */
export function readHanded(body: unknown): Handed {
  const { answers, inView } = handed.catch({ answers: [], inView: {} }).parse(body ?? {});
  return {
    answers: new Map(answers.map(({ slotId, value }) => [slotId, value])),
    inView: new Map(Object.entries(inView).slice(0, most)),
  };
}
