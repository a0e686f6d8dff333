import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
import { afterLedAct, type LedAct, type LedRound, whyNotAct, whyNotActSaid } from '@/core/round/ledRound';
import type { Tx } from '@/db/client';
import { round, sitting } from '@/db/schema';
import { tell } from '../house/bus';
import { command } from '../house/useCase';
import { roundOf } from '../records/roundOf';
import { publishesItself } from './beginRound';
import { toRound } from './toRound';

const question = z.number().int().min(0).max(2_000);
const act = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('open'), question }),
  z.object({ kind: z.literal('open-again'), question }),
  z.object({ kind: z.literal('close'), question }),
  z.object({ kind: z.literal('show'), question }),
]);

/**
 * Leads a round: opens a question, closes it, asks it again, shows what is right. Where two lead, or one presses twice, the
 * second press changes nothing; what the round is at by then both see.
 */
export const leadRound = command({
  admits: toRound('sitting.invigilate'),
  takes: [act],
  unlogged: 'it stands in the round itself, with the moment of each act',
  does({ tx, now, sittingId, afterwards }, { kind, question: at }): Result<{ led: LedRound }> {
    const held = roundOf(tx, sittingId);
    if (!held?.led) return refused('conflict', 'In this round everybody goes at their own pace.');
    const limit = held.rules.seconds === null ? null : held.rules.seconds * 1_000;
    const asked: LedAct =
      kind === 'open' || kind === 'open-again' ? { kind, question: at, limit } : { kind, question: at };
    const done = isDone(held.led, asked);
    if (done) return ok({ led: held.led });
    const why = whyNotAct(held.led, asked, now);
    if (why) return refused('conflict', whyNotActSaid[why]);
    const led = afterLedAct(held.led, asked, now);
    tx.update(round).set({ led }).where(eq(round.sittingId, sittingId)).run();
    afterwards(() => tell({ sittingId, what: 'round' }));
    return ok({ led });
  },
});

/** Whether somebody else did the same a moment before: opening what is open for that vote is no error. */
function isDone(led: LedRound, asked: LedAct): boolean {
  if (asked.kind !== 'open' && asked.kind !== 'open-again') return false;
  const at = led.questions[asked.question];
  return at?.phase === 'open' && at.vote === (asked.kind === 'open' ? 1 : 2);
}

/** Stops a round for everybody, with what is on its way to it. Stopped twice, it stays as it was stopped first. */
export function stop(tx: Tx, sittingId: string, now: number): void {
  const held = roundOf(tx, sittingId);
  if (!held || held.stoppedAt !== null) return;
  const led = held.led && afterLedAct(held.led, { kind: 'stop' }, now);
  tx.update(round).set({ led, stoppedAt: now }).where(eq(round.sittingId, sittingId)).run();
  tx.update(sitting)
    .set({ closes: now, selfPublish: publishesItself(held.rules) })
    .where(eq(sitting.id, sittingId))
    .run();
}

/** Stops a round: everybody's answers are handed in, with what is still on its way for three seconds. */
export const stopRound = command({
  admits: toRound('sitting.invigilate'),
  logs: 'round.stop',
  does({ tx, now, sittingId, record, afterwards }): Result<null> {
    stop(tx, sittingId, now);
    record({ subjectId: sittingId });
    afterwards(() => {
      tell({ sittingId, what: 'round' });
      tell({ sittingId, what: 'rules' });
    });
    return ok(null);
  },
});

/** Talks a question through after the stop: every device shows its owner's own answer. Null ends it. */
export const walkThrough = command({
  admits: toRound('sitting.invigilate'),
  takes: [question.nullable()],
  unlogged: 'it changes nothing but what is looked at together',
  does({ tx, sittingId, held, afterwards }, at): Result<null> {
    if (held.stoppedAt === null) return refused('conflict', 'A round is talked through once it is stopped.');
    tx.update(round).set({ walkedTo: at }).where(eq(round.sittingId, sittingId)).run();
    afterwards(() => tell({ sittingId, what: 'round' }));
    return ok(null);
  },
});
