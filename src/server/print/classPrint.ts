import { notFound, ok, type Result } from '@/core/base/result';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import { sittingOf } from '../sitting/audience';
import { beginPrint, endPrint, type PrintState, printedBytes, printOf } from './printJobs';
import { orderOf, papersOfSitting } from './printOrder';

const kind = 'print-papers';

/** Begins to print every student's own paper of a sitting into one PDF. What this person printed of it before goes. */
export async function printSitting(
  context: Context,
  courseId: string,
  sittingId: string,
  withKey: boolean,
): Promise<Result<PrintState>> {
  const papers = papersOfSitting(context, courseId, sittingId, withKey);
  if (!papers.ok) return papers;
  const total = papers.value.length;
  return beginPrint(
    context,
    kind,
    { sittingId, withKey },
    total,
    () => orderOf(papers.value),
    (tx) =>
      record(tx, context, {
        action: 'sitting.print',
        courseId,
        subjectId: sittingId,
        detail: { papers: total, withKey },
      }),
  );
}

/** How far this person's print of a sitting is; null when there is none. */
export function printState(context: Context, courseId: string, sittingId: string): Result<PrintState | null> {
  const admitted = admit(context, courseId, 'sitting.change');
  if (!admitted.ok) return admitted;
  if (!sittingOf(context.db, courseId, sittingId)) return notFound('sitting');
  return ok(printOf(context, kind, sittingId));
}

/** Ends a print that runs. */
export function cancelPrint(context: Context, courseId: string, sittingId: string): Result<null> {
  const state = printState(context, courseId, sittingId);
  return state.ok ? endPrint(context, kind, sittingId) : state;
}

/** The printed papers of a sitting, once they are done. */
export function printedFile(context: Context, courseId: string, sittingId: string): Result<{ bytes: Uint8Array }> {
  const state = printState(context, courseId, sittingId);
  if (!state.ok) return state;
  const bytes = printedBytes(context, kind, sittingId);
  return bytes ? ok({ bytes }) : notFound('print');
}
