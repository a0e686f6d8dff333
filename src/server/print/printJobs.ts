import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { and, desc, eq } from 'drizzle-orm';
import { ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { documentsAFile, type PrintOrder, piecesOf } from '@/core/print/printOrder';
import type { Db, Tx } from '@/db/client';
import { job } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { logFailure } from '../house/log';
import { afterwards } from '../house/writing';
import { type Printing, printer } from './printApart';

/** What a print is about: of the same thing the same person has one at a time. */
type PrintInput = {
  sittingId: string;
  withKey?: boolean;
  format?: 'pdf' | 'docx';
  report?: string;
  /** Of answer sheets: how many, and of what size. */
  sheets?: { count: number; size: number };
};

/**
 * What is printed: every student's own paper into one PDF, a feedback sheet for each student into an archive, a report
 * of the sitting's results, answer sheets, or such as a made-up class filled in.
 */
type PrintKind = 'print-papers' | 'print-sheets' | 'print-report' | 'print-answer-sheets' | 'fill-answer-sheets';

export type PrintState = {
  id: string;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  done: number;
  total: number;
  /** What was asked for. */
  input: PrintInput;
  problem: string | null;
};

const folder = () => join(process.env.WUZZEN_DATA ?? 'data/demo', 'prints');
const endings: Record<PrintKind, (total: number) => 'pdf' | 'zip'> = {
  'print-papers': (total) => (total > documentsAFile ? 'zip' : 'pdf'),
  'print-sheets': () => 'zip',
  'print-report': (total) => (total > documentsAFile ? 'zip' : 'pdf'),
  'print-answer-sheets': () => 'pdf',
  'fill-answer-sheets': () => 'zip',
};
const fileOf = (kind: PrintKind, { id, total }: { id: string; total: number }) =>
  join(folder(), `${id}.${endings[kind](total)}`);

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
    input: row.input as PrintInput,
    problem: lost ? 'The server was started anew while it printed. Print again.' : row.problem,
  };
};

function latest(db: Db, kind: PrintKind, sittingId: string, userId: string) {
  return db
    .select()
    .from(job)
    .where(and(eq(job.kind, kind), eq(job.startedBy, userId)))
    .orderBy(desc(job.createdAt), desc(job.id))
    .all()
    .find((row) => (row.input as PrintInput).sittingId === sittingId);
}

/** How far this person's print is; null when there is none. For whoever has been admitted before. */
export function printOf({ db, actor }: Context, kind: PrintKind, sittingId: string): PrintState | null {
  const row = latest(db, kind, sittingId, actor.userId);
  return row ? stateOf(row) : null;
}

/** Why a print does not stand in the log again when it ends. */
export const printsAreTheirOwn = 'a print is its printer’s own, and its beginning stands in the log';

/** Begins to print what is ready. What this person printed of it before goes. */
export function beginPrint(
  tx: Tx,
  context: Context,
  kind: PrintKind,
  input: PrintInput,
  order: PrintOrder,
): Result<PrintState> {
  const { db, actor, now } = context;
  const before = latest(db, kind, input.sittingId, actor.userId);
  if (before && stateOf(before).state === 'running') return refused('conflict', 'This is being printed already.');
  const id = newId();
  const total = piecesOf(order);
  if (before) tx.delete(job).where(eq(job.id, before.id)).run();
  tx.insert(job).values({ id, kind, state: 'running', total, input, startedBy: actor.userId, createdAt: now }).run();
  afterwards(context, () => {
    if (before) rmSync(fileOf(kind, before), { force: true });
    print(db, kind, id, order, now);
  });
  return ok({ id, state: 'running', done: 0, total, input, problem: null });
}

/** Prints in a thread, and writes down how far it is and how it ended. */
function print(db: Db, kind: PrintKind, id: string, order: PrintOrder, endedAt: Instant): void {
  const printing = printer.print(order, (done) => db.update(job).set({ done }).where(eq(job.id, id)).run());
  running.set(id, printing);
  void printing.bytes
    .then((printed) => {
      const file = fileOf(kind, { id, total: piecesOf(order) });
      mkdirSync(dirname(file), { recursive: true });
      const half = `${file}.half`;
      writeFileSync(half, printed);
      renameSync(half, file);
      db.update(job)
        .set({ state: 'done', done: piecesOf(order), endedAt })
        .where(eq(job.id, id))
        .run();
    })
    .catch((why: unknown) => {
      logFailure(why, undefined, 'Sheets could not be printed.');
      const cancelled = db.select({ state: job.state }).from(job).where(eq(job.id, id)).get()?.state === 'cancelled';
      if (!cancelled)
        db.update(job)
          .set({ state: 'failed', problem: 'It could not be printed. Try again.', endedAt })
          .where(eq(job.id, id))
          .run();
    })
    .finally(() => running.delete(id));
}

/** Ends a print that runs. */
export function endPrint(tx: Tx, context: Context, kind: PrintKind, sittingId: string): Result<null> {
  const state = printOf(context, kind, sittingId);
  if (state?.state !== 'running') return refused('conflict', 'Nothing is being printed.');
  tx.update(job).set({ state: 'cancelled', endedAt: context.now }).where(eq(job.id, state.id)).run();
  afterwards(context, () => running.get(state.id)?.end());
  return ok(null);
}

/** What was printed: a PDF, or an archive of several files. */
export type Printed = { bytes: Uint8Array; ending: 'pdf' | 'zip' };

/** What was printed, once it is done; null before. */
export function whatWasPrinted(context: Context, kind: PrintKind, sittingId: string): Printed | null {
  const state = printOf(context, kind, sittingId);
  const file = state?.state === 'done' ? fileOf(kind, state) : null;
  return state && file && existsSync(file) ? { bytes: readFileSync(file), ending: endings[kind](state.total) } : null;
}
