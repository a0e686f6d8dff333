import { z } from 'zod';
import { notFound, ok, type Result } from '@/core/base/result';
import type { PrintOrder } from '@/core/print/printOrder';
import { command, query } from '../house/useCase';
import { toSitting } from '../sitting/toSitting';
import {
  beginPrint,
  endPrint,
  type Printed,
  type PrintState,
  printOf,
  printsAreTheirOwn,
  whatWasPrinted,
} from './printJobs';
import { orderOf, papersOfSitting } from './printOrder';

const kind = 'print-papers';

/** Begins to print every student's own paper of a sitting into one PDF. What this person printed of it before goes. */
export const printSitting = command({
  admits: toSitting('sitting.change'),
  takes: [z.boolean()],
  logs: 'sitting.print',
  async prepares({ context, courseId, sittingId }, withKey): Promise<Result<PrintOrder>> {
    const papers = papersOfSitting(context, courseId, sittingId, withKey);
    return papers.ok ? ok(await orderOf(papers.value)) : papers;
  },
  does({ tx, context, sittingId, record, ready }, withKey): Result<PrintState> {
    const begun = beginPrint(tx, context, kind, { sittingId, withKey }, ready);
    if (begun.ok) record({ subjectId: sittingId, detail: { papers: begun.value.total, withKey } });
    return begun;
  },
});

/** How far this person's print of a sitting is; null when there is none. */
export const printState = query({
  admits: toSitting('sitting.change'),
  does: ({ sittingId, context }): Result<PrintState | null> => ok(printOf(context, kind, sittingId)),
});

/** Ends a print that runs. */
export const cancelPrint = command({
  admits: toSitting('sitting.change'),
  unlogged: printsAreTheirOwn,
  does: ({ tx, context, sittingId }): Result<null> => endPrint(tx, context, kind, sittingId),
});

/** The printed papers of a sitting, once they are done. */
export const printedFile = query({
  admits: toSitting('sitting.change'),
  does({ context, sittingId }): Result<Printed> {
    const printed = whatWasPrinted(context, kind, sittingId);
    return printed ? ok(printed) : notFound('print');
  },
});
