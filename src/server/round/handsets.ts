import { randomBytes } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import { and, count, eq } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
import { type HandsetNews, type HandsetOrder, mostHandsets } from '@/core/round/handsetOrder';
import { handset, round } from '@/db/schema';
import { command, query } from '../house/useCase';
import { doorOf } from './doors';
import { toRound } from './toRound';

/** Handsets that are out, by their round. */
const out = new Map<string, { thread: Worker; sent: number; news: HandsetNews }>();

const nothing: HandsetNews = { cameIn: 0, answered: 0, refused: 0, gone: 0, at: 0 };

/** What sends handsets out. Tests of what stands around it put something in its place. */
export const handsetSender = {
  send(order: HandsetOrder): void {
    const script = process.env.WUZZEN_HANDSETS;
    if (!script) throw new Error('WUZZEN_HANDSETS does not name the thread of the handsets.');
    const before = out.get(order.sittingId);
    const thread = new Worker(script);
    const own = { thread, sent: (before?.sent ?? 0) + order.count, news: before?.news ?? nothing };
    const earlier = own.news;
    out.set(order.sittingId, own);
    thread.on('message', (news: HandsetNews) => {
      own.news = {
        cameIn: earlier.cameIn + news.cameIn,
        answered: earlier.answered + news.answered,
        refused: earlier.refused + news.refused,
        gone: earlier.gone + news.gone,
        at: news.at,
      };
    });
    thread.once('error', () => out.delete(order.sittingId));
    thread.unref();
    thread.postMessage(order);
  },
  end(sittingId: string): void {
    void out.get(sittingId)?.thread.terminate();
    out.delete(sittingId);
  },
};

/** Made-up handsets of a round: how many are in, and with what others are brought in by the command. */
export type Handsets = {
  title: string;
  door: string | null;
  isOpen: boolean;
  /** Null while none may come in. */
  key: string | null;
  inside: number;
  news: HandsetNews | null;
};

export const seeHandsets = query({
  admits: toRound('sitting.invigilate'),
  does({ db, courseId, sittingId, sitting: row, held }): Result<Handsets> {
    const inside = db
      .select({ n: count() })
      .from(handset)
      .where(and(eq(handset.sittingId, sittingId), eq(handset.madeUp, true)))
      .get();
    return ok({
      title: row.title,
      door: doorOf(db, courseId),
      isOpen: held.stoppedAt === null,
      key: held.madeUpKey,
      inside: inside?.n ?? 0,
      news: out.get(sittingId)?.news ?? null,
    });
  },
});

const input = z.object({
  count: z
    .number({ message: 'Say how many handsets.' })
    .int('A whole number of handsets.')
    .min(1, 'At least one handset.')
    .max(mostHandsets, `At most ${mostHandsets} handsets.`),
});

/**
 * Brings made-up handsets into a round. They come in and answer through the addresses of real devices, marked as made up;
 * what they do enters no result.
 */
export const bringHandsets = command({
  admits: toRound('sitting.invigilate'),
  takes: [input],
  logs: 'round.handsets',
  does({ tx, courseId, sittingId, held, record, afterwards }, { count: wanted }): Result<null> {
    if (held.stoppedAt !== null) return refused('conflict', 'This round has been stopped.');
    const inside = tx
      .select({ n: count() })
      .from(handset)
      .where(and(eq(handset.sittingId, sittingId), eq(handset.madeUp, true)))
      .get();
    const first = inside?.n ?? 0;
    if (first + wanted > mostHandsets)
      return refused('bad-input', `At most ${mostHandsets} handsets in one round; ${first} are in.`, 'count');
    const key = held.madeUpKey ?? randomBytes(12).toString('base64url');
    if (held.madeUpKey === null) tx.update(round).set({ madeUpKey: key }).where(eq(round.sittingId, sittingId)).run();
    record({ subjectId: sittingId, detail: { handsets: wanted } });
    const code = doorOf(tx, courseId);
    if (code === null) return refused('conflict', 'This course has no door code.');
    const origin = `http://127.0.0.1:${process.env.PORT ?? 3000}`;
    afterwards(() => handsetSender.send({ origin, code, sittingId, key, count: wanted, first, pace: 1 }));
    return ok(null);
  },
});
