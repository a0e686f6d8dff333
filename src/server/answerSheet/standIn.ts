import { z } from 'zod';
import { grades } from '@/core/answerSheet/standIn';
import { notFound, ok, type Result } from '@/core/base/result';
import { command, query } from '../house/useCase';
import { beginPrint, endPrint, type PrintState, printOf, printsAreTheirOwn, whatWasPrinted } from '../print/printJobs';
import { audienceOf } from '../records/audience';
import { toSitting } from '../sitting/toSitting';
import { orderOfSheets, sheetOptions } from './printAnswerSheets';

const kind = 'fill-answer-sheets';

/**
 * Has answer sheets printed, filled in and scanned by a made-up class: pictures, one PDF of all, and the truth. Whoever
 * would like to try reading has something to read; nothing of it counts until somebody brings it in and takes it over.
 */
export const fillAnswerSheets = command({
  admits: toSitting('sitting.change'),
  takes: [sheetOptions, z.enum(grades)],
  logs: 'sitting.fill-answer-sheets',
  does({ tx, context, sittingId, sitting, record }, options, grade): Result<PrintState> {
    const order = orderOfSheets(tx, context, sitting, options);
    if (!order.ok) return order;
    const count = order.value.sheets.length;
    // No number stands on what is nobody's: there is no grid for one.
    const numbers = audienceOf(tx, sitting).flatMap((one) => one.studentNumber ?? []);
    const begun = beginPrint(
      tx,
      context,
      kind,
      { sittingId, sheets: { count, size: options.size } },
      { filled: { order: order.value, grade, seed: sittingId, numbers }, pictures: {} },
    );
    if (begun.ok) record({ subjectId: sittingId, detail: { sheets: count, grade } });
    return begun;
  },
});

/** How far the made-up class is; null where none was asked for. */
export const filledState = query({
  admits: toSitting('sitting.change'),
  does: ({ sittingId, context }): Result<PrintState | null> => ok(printOf(context, kind, sittingId)),
});

/** Sends the made-up class home. */
export const cancelFilling = command({
  admits: toSitting('sitting.change'),
  unlogged: printsAreTheirOwn,
  does: ({ tx, context, sittingId }): Result<null> => endPrint(tx, context, kind, sittingId),
});

/** What the made-up class has filled in, as an archive. */
export const filledSheets = query({
  admits: toSitting('sitting.change'),
  does({ context, sittingId }): Result<{ bytes: Uint8Array }> {
    const filled = whatWasPrinted(context, kind, sittingId);
    return filled ? ok({ bytes: filled.bytes }) : notFound('print');
  },
});
