import { desc, eq } from 'drizzle-orm';
import { keySheet as keySheetFor } from '@/core/answerSheet/keySheet';
import type { SheetPlan } from '@/core/answerSheet/sheetRow';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { keySheet } from '@/db/schema';
import { storedItems } from '../exam/storedItems';
import { toExam } from '../exam/toExam';
import { command, query } from '../house/useCase';
import { printer } from '../print/printApart';
import { installationSigns, newLayoutId } from './sheetNames';

/** A printed sheet for a key, by which a filled one is read. */
export type PrintedKeySheet = { id: string; plan: SheetPlan; questionIds: string[] };

/**
 * Makes the sheet on which the key of an off-screen exam is filled in: the one that was printed before, or another where its
 * items have changed.
 */
export const makeKeySheet = command({
  admits: toExam('exam.change'),
  unlogged: 'a sheet to be filled in changes nothing of the exam',
  does({ tx, now, examId, revision }): Result<null> {
    if (!revision.design.offScreen) return notFound('off-screen exam');
    const made = keySheetFor(storedItems(tx, revision.design).map(({ item }) => item));
    if (!made) return refused('conflict', 'None of these items has a key that could be filled in. Set some first.');
    const same = tx
      .select()
      .from(keySheet)
      .where(eq(keySheet.examId, examId))
      .all()
      .some((one) => JSON.stringify([one.plan, one.questionIds]) === JSON.stringify([made.plan, made.questionIds]));
    if (!same)
      tx.insert(keySheet)
        .values({ id: newLayoutId(), examId, ...made, createdAt: now })
        .run();
    return ok(null);
  },
});

/** The sheets that were printed for the key of an exam, the newest first. */
export const keySheets = query({
  admits: toExam('exam.change'),
  does: ({ db, examId }): Result<PrintedKeySheet[]> =>
    ok(
      db
        .select({ id: keySheet.id, plan: keySheet.plan, questionIds: keySheet.questionIds })
        .from(keySheet)
        .where(eq(keySheet.examId, examId))
        .orderBy(desc(keySheet.createdAt))
        .all(),
    ),
});

/** The newest sheet for the key of an exam, as a PDF. */
export const printedKeySheet = query({
  admits: toExam('exam.change'),
  async does({ db, examId, exam }): Promise<Result<{ bytes: Uint8Array }>> {
    const sheet = db
      .select()
      .from(keySheet)
      .where(eq(keySheet.examId, examId))
      .orderBy(desc(keySheet.createdAt))
      .limit(1)
      .get();
    if (!sheet) return notFound('sheet');
    const order = {
      installation: installationSigns(db),
      title: exam.title,
      layouts: { [sheet.id]: sheet.plan },
      sheets: [{ layout: sheet.id, copy: 1, name: 'The key', note: '' }],
      bothSides: false,
    };
    return ok({ bytes: await printer.print({ answerSheets: order, pictures: {} }, () => {}).bytes });
  },
});
