import { and, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { judgePage } from '@/core/answerSheet/judgeMarks';
import { readSheetCode } from '@/core/answerSheet/sheetCode';
import { layOutSheet, studentRow } from '@/core/answerSheet/sheetLayout';
import { type SheetPlan, signsDoNotFit } from '@/core/answerSheet/sheetRow';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { madeOutSheet, sheetLayout, sheetPage, sheetReading, user } from '@/db/schema';
import { newId } from '../house/context';
import { keepFile, tidyFileName } from '../house/keepFile';
import { bytes, command, query } from '../house/useCase';
import { readOutside } from '../outside/readOutside';
import { audienceOf } from '../records/audience';
import { toNamedSitting, toSitting } from '../sitting/toSitting';
import { forgetPages } from './anonymousSheets';
import { installationSigns, sheetName } from './sheetNames';
import { nextPosition, openReading, readingNow, sheetFolder } from './sheetPages';

/** The largest picture of a sheet that is kept, in bytes. */
export const largestSheetPicture = 4_000_000;
const mostPages = 2_000;
const tooManyPages = `At most ${mostPages} pages are looked through at once: take these over first.`;

/** What a reader needs to know of the sheets of a sitting. */
export type SheetsToRead = {
  installation: string;
  layouts: { id: string; plan: SheetPlan }[];
  /** Whether a folder is watched, into which a copier may put its scans. */
  watched: boolean;
};

/** The layouts by which sheets of a sitting are read. */
export const sheetsToRead = query({
  admits: toSitting('sitting.change'),
  does: ({ db, sittingId }): Result<SheetsToRead> =>
    ok({
      installation: installationSigns(db),
      watched: Boolean(process.env.WUZZEN_SHEETS_FOLDER),
      layouts: db
        .select({ id: sheetLayout.id, plan: sheetLayout.plan })
        .from(sheetLayout)
        .where(eq(sheetLayout.sittingId, sittingId))
        .all(),
    }),
});

const pageInput = z.object({
  /** The file it came in, and which page of it. */
  source: z.string().max(300),
  problem: z.enum(['no-sheet', 'corner-missing', 'unreadable']).nullable(),
  code: z.string().max(60).nullable(),
  /** How dark each box of its layout is, in percent; null where it could not be read. */
  darkness: z.array(z.number().int().min(0).max(200)).max(5_000).nullable(),
});

const pictures = new Set(['image/jpeg', 'image/png', 'image/webp']);

/**
 * Brings a page in: what a reader found on it, with its picture. It goes to the reading that is looked through now, or
 * begins one; nothing of it counts until that is taken over.
 *
 * @returns which page of the reading it is, and whose sheet it was made out for, or what one is called that is nobody's; null for a
 *   blank
 */
export const bringSheetPage = command({
  admits: toSitting('sitting.change'),
  takes: [pageInput, bytes],
  unlogged: 'pages are looked through first; what is taken over stands in the log',
  async prepares({ context }, _, picture): Promise<Result<{ hash: string | null }>> {
    if (picture.length === 0) return ok({ hash: null });
    if (picture.length > largestSheetPicture) return refused('bad-input', 'This picture is larger than 4 MB.');
    const type = await readOutside('mediaType', picture);
    if (!type.ok) return type;
    if (!type.value || !pictures.has(type.value)) return refused('bad-input', 'This is no picture.');
    return ok({ hash: keepFile(context.files ?? sheetFolder(), picture) });
  },
  does(
    { tx, context, sittingId, sitting, ready },
    page,
  ): Result<{ pageId: string; readingId: string; madeOutFor: string | null }> {
    const reading = readingNow(tx, context, sittingId);
    const position = nextPosition(tx, reading.id);
    if (position >= mostPages) return refused('conflict', tooManyPages);
    const code = page.code === null ? null : readSheetCode(page.code);
    const plan = code
      ? tx
          .select({ plan: sheetLayout.plan })
          .from(sheetLayout)
          .where(and(eq(sheetLayout.id, code.layout), eq(sheetLayout.sittingId, sittingId)))
          .get()?.plan
      : undefined;
    const laidOut = plan && code ? layOutSheet(plan)[code.page - 1] : undefined;
    const isRead = plan && laidOut && page.problem === null && page.darkness?.length === laidOut.boxes.length;
    const rows = isRead
      ? judgePage(
          plan,
          laidOut,
          (page.darkness ?? []).map((percent) => percent / 100),
        )
      : [];
    const pageId = newId();
    tx.insert(sheetPage)
      .values({
        id: pageId,
        readingId: reading.id,
        position,
        source: tidyFileName(page.source),
        problem: page.problem ?? (code ? (laidOut && !isRead ? 'unreadable' : null) : 'no-sheet'),
        code,
        rows,
        settled: {},
        named: null,
        leftOut: false,
        picture: ready.hash,
        attemptId: null,
      })
      .run();
    const owner = code
      ? tx
          .select({ name: user.name })
          .from(madeOutSheet)
          .innerJoin(user, eq(user.id, madeOutSheet.userId))
          .where(and(eq(madeOutSheet.layoutId, plan ? code.layout : ''), eq(madeOutSheet.copy, code.copy)))
          .get()
      : undefined;
    const nobodys = sitting.anonymous && plan && code ? sheetName(code.copy) : null;
    return ok({ pageId, readingId: reading.id, madeOutFor: owner?.name ?? nobodys });
  },
});

const pageId = id('sheetPage');

/** A page of the reading that is looked through now. */
const pageNow = (tx: Parameters<typeof openReading>[0], sittingId: string, wanted: string) => {
  const reading = openReading(tx, sittingId);
  return reading
    ? tx
        .select()
        .from(sheetPage)
        .where(and(eq(sheetPage.id, wanted), eq(sheetPage.readingId, reading.id)))
        .get()
    : undefined;
};

const whileLooked = 'what is looked through counts for nothing yet';

/**
 * Settles a row: these signs are what it says, whatever was read.
 *
 * @param signs for a number grid one for each column, '' for none; null to go by what was read again
 */
export const settleSheetRow = command({
  admits: toSitting('sitting.change'),
  takes: [pageId, z.number().int().min(studentRow).max(500), z.array(z.string().max(4)).max(20).nullable()],
  unlogged: whileLooked,
  does({ tx, sittingId }, wanted, row, signs): Result<null> {
    const page = pageNow(tx, sittingId, wanted);
    if (!page) return notFound('page');
    const plan = page.code
      ? tx.select({ plan: sheetLayout.plan }).from(sheetLayout).where(eq(sheetLayout.id, page.code.layout)).get()?.plan
      : undefined;
    if (!plan || !page.rows.some((one) => one.row === row)) return notFound('row');
    if (signs) {
      const problem = signsDoNotFit(row === studentRow ? null : (plan.rows[row] ?? null), signs);
      if (problem) return refused('bad-input', problem);
    }
    const { [row]: _, ...others } = page.settled;
    tx.update(sheetPage)
      .set({ settled: signs ? { ...others, [row]: signs } : others })
      .where(eq(sheetPage.id, wanted))
      .run();
    return ok(null);
  },
});

/** Says whose sheet a page is; null to go by its code or its number again. */
export const nameSheetPage = command({
  admits: toNamedSitting('sitting.change'),
  takes: [pageId, id('user').nullable()],
  unlogged: whileLooked,
  does({ tx, sittingId, sitting }, wanted, userId): Result<null> {
    if (!pageNow(tx, sittingId, wanted)) return notFound('page');
    if (userId !== null && !audienceOf(tx, sitting).some((one) => one.userId === userId)) return notFound('student');
    tx.update(sheetPage).set({ named: userId }).where(eq(sheetPage.id, wanted)).run();
    return ok(null);
  },
});

/** Leaves pages out, or takes them in again: one that is put aside, or all of a student. */
export const leaveSheetPagesOut = command({
  admits: toSitting('sitting.change'),
  takes: [z.array(pageId).min(1).max(50), z.boolean()],
  unlogged: whileLooked,
  does({ tx, sittingId }, wanted, leftOut): Result<null> {
    const reading = openReading(tx, sittingId);
    const { changes } = tx
      .update(sheetPage)
      .set({ leftOut })
      .where(and(eq(sheetPage.readingId, reading?.id ?? ''), inArray(sheetPage.id, wanted)))
      .run();
    return changes === new Set(wanted).size ? ok(null) : notFound('page');
  },
});

/**
 * Gives up the reading that is looked through now. Its pages stay stored, and count for nothing; those of an anonymous
 * sitting go.
 */
export const giveUpReading = command({
  admits: toSitting('sitting.change'),
  logs: 'sitting.give-up-sheets',
  does({ tx, now, context, sittingId, sitting, record, afterwards }): Result<null> {
    const reading = openReading(tx, sittingId);
    if (!reading) return notFound('reading');
    if (sitting.anonymous) afterwards(forgetPages(tx, context, reading.id));
    tx.update(sheetReading).set({ endedAt: now }).where(eq(sheetReading.id, reading.id)).run();
    record({ subjectId: sittingId, detail: { readingId: reading.id } });
    return ok(null);
  },
});
