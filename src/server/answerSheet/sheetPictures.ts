import { readFile } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import type { SheetPiece } from '@/core/answerSheet/sheetPiece';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Fact } from '@/core/release/plan';
import type { Db } from '@/db/client';
import { attempt, paperSlot, sheetPage, sheetReading, sitting } from '@/db/schema';
import { askedWithin } from '../house/askedWithin';
import type { Context } from '../house/context';
import { keptFile } from '../house/keepFile';
import { query } from '../house/useCase';
import { toMarking } from '../marking/toMarking';
import type { SittingRow } from '../records/audience';
import { type SheetEvidence, sheetEvidence } from '../records/sheetEvidence';
import { releaseFactsFor, shownTo, whomIn } from '../release/releaseFacts';
import { showsOnSheet } from '../release/sheetsShown';
import { toSitting } from '../sitting/toSitting';
import { sheetFolder } from './sheetPages';

/** The most pixels of a picture that is cut: the largest sheet that is kept has some two million. */
const mostPixels = 30_000_000;

const kept = (context: Context, hash: string): Promise<Uint8Array | null> =>
  readFile(keptFile(context.files ?? sheetFolder(), hash)).catch(() => null);

/** What a student sees of the sitting now; nothing where they are none of its students. */
function visibleTo(db: Db, row: SittingRow, userId: string, now: number): ReadonlySet<Fact> {
  const whom = whomIn(db, row, userId);
  return whom ? shownTo(db, row, releaseFactsFor(db, row, whom, whom.timeZone, now), now).visible : new Set();
}

/**
 * The picture of a page of an answer sheet: for whoever reads sheets of its sitting in, and for its student as far as the
 * release plan shows own answers. To everyone else it does not exist.
 */
export const openSheet = query({
  admits: askedWithin('who may change its sitting, and the student whose sheet it is'),
  takes: [id('sheetPage')],
  async does({ context, db, actor, now }, pageId): Promise<Result<{ bytes: Uint8Array }>> {
    const row = db
      .select({ page: sheetPage, sitting, userId: attempt.userId, state: attempt.state })
      .from(sheetPage)
      .innerJoin(sheetReading, eq(sheetReading.id, sheetPage.readingId))
      .innerJoin(sitting, eq(sitting.id, sheetReading.sittingId))
      .leftJoin(attempt, eq(attempt.id, sheetPage.attemptId))
      .where(eq(sheetPage.id, pageId))
      .get();
    if (!row?.page.picture) return notFound('picture');
    const { attemptId, picture } = row.page;
    if (attemptId && row.userId === actor.userId) {
      const own = sheetEvidence(db, [attemptId])
        .get(attemptId)
        ?.find((one) => one.pageId === pageId);
      const visible = visibleTo(db, row.sitting, actor.userId, now);
      if (!own || row.state !== 'handed-in' || !showsOnSheet(visible, own.holdsPoints)) return notFound('picture');
    } else if (!toSitting('sitting.change').open(context, row.sitting.courseId, row.sitting.id).ok)
      return notFound('picture');
    const bytes = await kept(context, picture);
    return bytes ? ok({ bytes }) : notFound('picture');
  },
});

/**
 * The piece of an answer sheet on which one question stands: for whoever marks its sitting, who may not learn whose it is,
 * and for its student as {@link openSheet}. It is cut out here, so that nothing else of the sheet goes with it.
 */
export const openSheetPiece = query({
  admits: askedWithin('who marks its sitting, and the student whose answer it is'),
  takes: [id('slot')],
  async does({ context, db, actor, now }, slotId): Promise<Result<{ bytes: Uint8Array }>> {
    const row = db
      .select({ slot: paperSlot, userId: attempt.userId, state: attempt.state, sitting })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .where(eq(paperSlot.id, slotId))
      .get();
    if (row?.state !== 'handed-in') return notFound('picture');
    const { attemptId, position } = row.slot;
    const on = (sheetEvidence(db, [attemptId]).get(attemptId) ?? []).find((one) => one.pieces.has(position));
    const piece = on?.pieces.get(position);
    if (!on || !piece) return notFound('picture');
    if (row.userId === actor.userId) {
      if (!showsOnSheet(visibleTo(db, row.sitting, actor.userId, now), piece.points)) return notFound('picture');
    } else {
      const marking = toMarking.open(context, row.sitting.courseId);
      if (!marking.ok || !marking.value.mayMark(row.sitting.id)) return notFound('picture');
    }
    const whole = await kept(context, on.picture);
    const bytes = whole && (await cut(whole, on, piece));
    return bytes ? ok({ bytes }) : notFound('picture');
  },
});

/** Cuts a piece out of the picture of a page. */
async function cut(picture: Uint8Array, { size }: SheetEvidence, piece: SheetPiece): Promise<Uint8Array | null> {
  try {
    const whole = sharp(picture, { limitInputPixels: mostPixels }).timeout({ seconds: 10 });
    const { width, height } = await whole.metadata();
    const dots = (width ?? 0) / size.width;
    const left = Math.max(0, Math.floor(piece.x * dots));
    const top = Math.max(0, Math.floor(piece.y * dots));
    return await whole
      .extract({
        left,
        top,
        width: Math.min((width ?? 0) - left, Math.ceil(piece.width * dots)),
        height: Math.min((height ?? 0) - top, Math.ceil(piece.height * dots)),
      })
      .webp({ quality: 75 })
      .toBuffer();
  } catch {
    return null;
  }
}
