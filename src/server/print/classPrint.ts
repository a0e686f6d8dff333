import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { and, desc, eq } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Db } from '@/db/client';
import { job } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { admit } from '../people/permission';
import { sittingOf } from '../sitting/audience';
import { type Printing, printInThread } from './printInThread';
import { orderOf, papersOfSitting } from './printOrder';

export type PrintState = {
  id: string;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  done: number;
  total: number;
  withKey: boolean;
  problem: string | null;
};

type Input = { sittingId: string; withKey: boolean };

const kind = 'print-papers';
const folder = () => join(process.env.WUZZEN_DATA ?? 'data/demo', 'prints');
const fileOf = (id: string) => join(folder(), `${id}.pdf`);

/** What prints in this process, by job. Actions and routes are different module graphs: it stands where all see it. */
const shared = globalThis as typeof globalThis & { wuzzenPrinting?: Map<string, Printing> };
shared.wuzzenPrinting ??= new Map();
const running = shared.wuzzenPrinting;

const stateOf = (row: typeof job.$inferSelect): PrintState => {
  // A print whose thread is gone with a restart will never end.
  const lost = row.state === 'running' && !running.has(row.id);
  return {
    id: row.id,
    state: lost ? 'failed' : (row.state as PrintState['state']),
    done: row.done,
    total: row.total,
    withKey: (row.input as Input).withKey,
    problem: lost ? 'The server was started anew while it printed. Print again.' : row.problem,
  };
};

function latest(db: Db, sittingId: string, userId: string) {
  return db
    .select()
    .from(job)
    .where(and(eq(job.kind, kind), eq(job.startedBy, userId)))
    .orderBy(desc(job.createdAt), desc(job.id))
    .all()
    .find((row) => (row.input as Input).sittingId === sittingId);
}

/** Begins to print every student's own paper of a sitting into one PDF. What this person printed of it before goes. */
export async function printSitting(
  context: Context,
  courseId: string,
  sittingId: string,
  withKey: boolean,
): Promise<Result<PrintState>> {
  const papers = papersOfSitting(context, courseId, sittingId, withKey);
  if (!papers.ok) return papers;
  const { db, actor, now } = context;
  const before = latest(db, sittingId, actor.userId);
  if (before && stateOf(before).state === 'running')
    return refused('conflict', 'These papers are being printed already.');
  const id = newId();
  const row = {
    id,
    kind,
    state: 'running' as const,
    total: papers.value.length,
    input: { sittingId, withKey } satisfies Input,
    startedBy: actor.userId,
    createdAt: now,
  };
  db.transaction(
    (tx) => {
      if (before) tx.delete(job).where(eq(job.id, before.id)).run();
      tx.insert(job).values(row).run();
      record(tx, context, {
        action: 'sitting.print',
        courseId,
        subjectId: sittingId,
        detail: { papers: row.total, withKey },
      });
    },
    { behavior: 'immediate' },
  );
  if (before) rmSync(fileOf(before.id), { force: true });
  const order = await orderOf(papers.value);
  const printing = printInThread(order, (done) => db.update(job).set({ done }).where(eq(job.id, id)).run());
  running.set(id, printing);
  void printing.bytes
    .then((bytes) => {
      mkdirSync(dirname(fileOf(id)), { recursive: true });
      const half = `${fileOf(id)}.half`;
      writeFileSync(half, bytes);
      renameSync(half, fileOf(id));
      db.update(job).set({ state: 'done', done: row.total, endedAt: now }).where(eq(job.id, id)).run();
    })
    .catch((why: unknown) => {
      console.error(why);
      const cancelled = db.select({ state: job.state }).from(job).where(eq(job.id, id)).get()?.state === 'cancelled';
      if (!cancelled)
        db.update(job)
          .set({ state: 'failed', problem: 'The papers could not be printed. Try again.', endedAt: now })
          .where(eq(job.id, id))
          .run();
    })
    .finally(() => running.delete(id));
  return ok(stateOf({ ...row, done: 0, output: null, problem: null, endedAt: null }));
}

/** How far this person's print of a sitting is; null when there is none. */
export function printState(context: Context, courseId: string, sittingId: string): Result<PrintState | null> {
  const admitted = admit(context, courseId, 'sitting.change');
  if (!admitted.ok) return admitted;
  if (!sittingOf(context.db, courseId, sittingId)) return notFound('sitting');
  const row = latest(context.db, sittingId, context.actor.userId);
  return ok(row ? stateOf(row) : null);
}

/** Ends a print that runs. */
export function cancelPrint(context: Context, courseId: string, sittingId: string): Result<null> {
  const state = printState(context, courseId, sittingId);
  if (!state.ok) return state;
  if (state.value?.state !== 'running') return refused('conflict', 'Nothing is being printed.');
  const { id } = state.value;
  context.db.update(job).set({ state: 'cancelled', endedAt: context.now }).where(eq(job.id, id)).run();
  running.get(id)?.end();
  return ok(null);
}

/** The printed papers of a sitting, once they are done. */
export function printedFile(context: Context, courseId: string, sittingId: string): Result<{ bytes: Uint8Array }> {
  const state = printState(context, courseId, sittingId);
  if (!state.ok) return state;
  const file = state.value?.state === 'done' ? fileOf(state.value.id) : null;
  return file && existsSync(file) ? ok({ bytes: readFileSync(file) }) : notFound('print');
}
