import { readFile } from 'node:fs/promises';
import { and, asc, eq, inArray, isNull, ne } from 'drizzle-orm';
import sharp from 'sharp';
import { z } from 'zod';
import { receiptCode } from '@/core/attempt/receiptCode';
import { seededRandom } from '@/core/base/random';
import { ok, type Result, refused } from '@/core/base/result';
import { drawPaper } from '@/core/exam/drawPaper';
import { layOutPrint, type PrintSource, picturesOn } from '@/core/exam/layOutPrint';
import type { PrintedPaper, PrintOrder } from '@/core/exam/printedPaper';
import type { QuestionContent } from '@/core/question/content';
import { present } from '@/core/question/score';
import { attempt, paperSlot, questionVersion } from '@/db/schema';
import { paperSeed, poolOf } from '../attempt/sittingPool';
import { mediaFile } from '../bank/media';
import { freezePassages, passageContents } from '../bank/passages';
import { drawSample, sampleSeed } from '../exam/drawnSample';
import { toLook } from '../exam/toLook';
import { command, query } from '../house/useCase';
import { audienceOf } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import { toSitting } from '../sitting/toSitting';
import { printer } from './printInThread';

/** A sample paper for printing. */
export const sampleForPrint = query({
  admits: toLook,
  takes: [sampleSeed, z.boolean()],
  does(look, seed, withKey): Result<PrintedPaper> {
    const drawn = drawSample(look, seed);
    if (!drawn.ok) return drawn;
    const { title, design, slots, passages } = drawn.value;
    return ok(layOutPrint({ title, student: null, code: `Sample paper ${seed}`, withKey }, design, slots, passages));
  },
});

/** A sample paper as PDF. */
export const printSample = query({
  admits: toLook,
  takes: [sampleSeed, z.boolean()],
  async does({ context, courseId, examId }, seed, withKey): Promise<Result<{ bytes: Uint8Array; name: string }>> {
    const found = sampleForPrint(context, courseId, examId, seed, withKey);
    if (!found.ok) return found;
    const { title, code } = found.value;
    const printed = await printer.print(await orderOf([found.value])).bytes;
    return ok({ bytes: printed, name: `${title}, ${code}${withKey ? ', with key' : ''}.pdf` });
  },
});

/**
 * Every student's own paper of a scheduled sitting, by name: the one of the latest attempt, or for those who have not
 * started, the one that their first attempt will get. Printing papers that are still to be drawn fixes the sitting's
 * questions as its first attempt would, so that the printed paper stays the student's own.
 */
export const papersOfSitting = command({
  admits: toSitting('sitting.change'),
  takes: [z.boolean()],
  unlogged: 'printing stands in the log by itself',
  does({ tx, db, now, sittingId, sitting: row, context }, withKey): Result<PrintedPaper[]> {
    if (row.state !== 'scheduled') return refused('conflict', 'Papers are printed once the sitting is scheduled.');
    if (row.anonymous)
      return refused('conflict', 'Nobody’s paper is known in an anonymous sitting. Print sample papers instead.');
    const students = audienceOf(tx, row);
    if (students.length === 0) return refused('conflict', 'Nobody is given this sitting.');
    const latest = new Map(
      tx
        .select()
        .from(attempt)
        .where(and(eq(attempt.sittingId, sittingId), ne(attempt.state, 'voided')))
        .orderBy(asc(attempt.number))
        .all()
        .map((one) => [one.userId, one]),
    );
    const stored = new Map<string, (typeof paperSlot.$inferSelect)[]>();
    const attemptIds = [...latest.values()].map((one) => one.id);
    for (const slot of tx
      .select()
      .from(paperSlot)
      .where(inArray(paperSlot.attemptId, attemptIds))
      .orderBy(asc(paperSlot.position))
      .all()) {
      const own = stored.get(slot.attemptId);
      if (own) own.push(slot);
      else stored.set(slot.attemptId, [slot]);
    }
    const pool = poolOf(tx, db, row, now);
    const titles = new Map(pool.design.parts.map((part) => [part.id, part.title]));
    const drawn = new Map(
      students
        .filter((student) => !latest.has(student.userId))
        .map((student) => {
          const seed = paperSeed(db, sittingId, student.userId, 1);
          return [student.userId, { seed, slots: drawPaper(pool.design, pool.snapshot, seed, new Set(), pool.plan) }];
        }),
    );
    if ([...drawn.values()].some((one) => !one.slots))
      return refused('conflict', 'Not every student’s paper can be drawn: the plan check says why.');
    const versionIds = [...drawn.values()].flatMap((one) => (one.slots ?? []).map((slot) => slot.versionId));
    tx.update(questionVersion)
      .set({ frozenAt: now })
      .where(and(inArray(questionVersion.id, [...new Set(versionIds)]), isNull(questionVersion.frozenAt)))
      .run();
    const passageOf = freezePassages(tx, context, [
      ...new Set([...drawn.values()].flatMap((one) => (one.slots ?? []).flatMap((slot) => slot.passageId ?? []))),
    ]);
    const allSlots = [...stored.values()].flat();
    const contents = frozenContents(tx, [...new Set([...versionIds, ...allSlots.map((slot) => slot.versionId)])]);
    const passages = passageContents(tx, [
      ...passageOf.values(),
      ...allSlots.flatMap((slot) => slot.passageVersionId ?? []),
    ]);
    return ok(
      students.map((student) => {
        const begun = latest.get(student.userId);
        const own = drawn.get(student.userId);
        const design = begun ? pinnedDesign(tx, begun.revisionId) : pool.design;
        const sources: PrintSource[] = begun
          ? (stored.get(begun.id) ?? []).map((slot) => ({
              ...slot,
              passageId: slot.passageVersionId,
              content: contents.get(slot.versionId) as QuestionContent,
            }))
          : (own?.slots ?? []).map((slot, position) => {
              const content = contents.get(slot.versionId) as QuestionContent;
              return {
                ...slot,
                partTitle: titles.get(slot.partId) ?? '',
                passageId: (slot.passageId && passageOf.get(slot.passageId)) || null,
                content,
                presentation: present(content, seededRandom(own?.seed ?? '', `slot/${position}`), pool.design),
              };
            });
        const code = receiptCode(begun?.seed ?? own?.seed ?? '');
        return layOutPrint({ title: row.title, student: student.name, code, withKey }, design, sources, passages);
      }),
    );
  },
});

/** The widest a printed picture needs to be, in dots. */
const widest = 1_600;

/** Papers with the pictures on them, ready for the thread that prints. A picture that is gone is printed as its words. */
export async function orderOf(papers: PrintedPaper[]): Promise<Extract<PrintOrder, { papers: unknown }>> {
  return { papers, pictures: await picturesFor(picturesOn(papers)) };
}

/** Pictures by their hashes, as they are printed. */
export async function picturesFor(hashes: Iterable<string>): Promise<PrintOrder['pictures']> {
  const pictures: PrintOrder['pictures'] = {};
  for (const hash of hashes) {
    const file = await readFile(mediaFile(hash)).catch(() => null);
    if (!file) continue;
    const { data, info } = await sharp(file)
      .resize({ width: widest, withoutEnlargement: true })
      .png()
      .toBuffer({ resolveWithObject: true });
    pictures[hash] = { data, width: info.width, height: info.height };
  }
  return pictures;
}
