import { and, asc, eq, inArray } from 'drizzle-orm';
import { receiptCode } from '@/core/attempt/receiptCode';
import { grouped } from '@/core/base/grouped';
import { seededRandom } from '@/core/base/random';
import { ok, type Result, refused } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { ExamDesign } from '@/core/exam/design';
import { drawPaper, type PaperSlot } from '@/core/exam/drawPaper';
import type { PrintSource } from '@/core/exam/layOutPrint';
import type { QuestionContent } from '@/core/question/content';
import { present } from '@/core/question/score';
import type { Tx } from '@/db/client';
import { attempt, paperSlot } from '@/db/schema';
import { paperSeed, poolOf } from '../attempt/sittingPool';
import { freezeVersions, seenBefore } from '../attempt/startAttempt';
import { freezePassages, passageContents } from '../bank/passages';
import type { Context } from '../house/context';
import { type AudienceMember, audienceOf, type SittingRow } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';

/** A paper before it is laid out. */
export type DrawnPaper = { code: string; design: ExamDesign; sources: PrintSource[] };

/** A student's own paper. */
export type StudentPaper = DrawnPaper & {
  student: AudienceMember;
  /** Which attempt of theirs has it, or will have it. */
  number: number;
};

/**
 * Every student's own paper of a scheduled sitting, by name: the one of the latest attempt, or for those who have not
 * started, the one that their first attempt will get. Papers that are still to be drawn fix the sitting's questions as its
 * first attempt would, so that what is printed stays the student's own.
 *
 * @param only the one student whose paper is wanted; null for all
 */
export function studentPapers(
  tx: Tx,
  context: Context,
  row: SittingRow,
  only: string | null = null,
): Result<{ papers: StudentPaper[]; passages: ReadonlyMap<string, Rich> }> {
  const { db, now } = context;
  const sittingId = row.id;
  if (row.state !== 'scheduled') return refused('conflict', 'Papers are printed once the sitting is scheduled.');
  if (row.anonymous)
    return refused(
      'conflict',
      'Nobody’s paper is known in an anonymous sitting: one is printed that is the same for everyone.',
    );
  const students = audienceOf(tx, row).filter((one) => only === null || one.userId === only);
  if (students.length === 0) return refused('conflict', 'Nobody is given this sitting.');
  const all = tx
    .select()
    .from(attempt)
    .where(and(eq(attempt.sittingId, sittingId), only === null ? undefined : eq(attempt.userId, only)))
    .orderBy(asc(attempt.number))
    .all();
  const latest = new Map(all.filter((one) => one.state !== 'voided').map((one) => [one.userId, one]));
  const before = grouped(all, (one) => one.userId);
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
  const drawn = new Map(
    students
      .filter((student) => !latest.has(student.userId))
      .map((student) => {
        // Who was voided gets the paper of their next attempt, with other questions where there are some.
        const voided = before.get(student.userId) ?? [];
        const number = (voided.at(-1)?.number ?? 0) + 1;
        const seed = paperSeed(db, sittingId, student.userId, number);
        const seen = seenBefore(
          tx,
          voided.map((one) => one.id),
        );
        return [student.userId, { number, seed, slots: drawPaper(pool.design, pool.snapshot, seed, seen, pool.plan) }];
      }),
  );
  if ([...drawn.values()].some((one) => !one.slots))
    return refused('conflict', 'Not every student’s paper can be drawn: the plan check says why.');
  const versionIds = [...drawn.values()].flatMap((one) => (one.slots ?? []).map((slot) => slot.versionId));
  freezeVersions(tx, [...new Set(versionIds)], now);
  const passageOf = freezePassages(tx, context, [
    ...new Set([...drawn.values()].flatMap((one) => (one.slots ?? []).flatMap((slot) => slot.passageId ?? []))),
  ]);
  const allSlots = [...stored.values()].flat();
  const contents = frozenContents(tx, [...new Set([...versionIds, ...allSlots.map((slot) => slot.versionId)])]);
  const passages = passageContents(tx, [
    ...passageOf.values(),
    ...allSlots.flatMap((slot) => slot.passageVersionId ?? []),
  ]);
  const papers = students.map((student): StudentPaper => {
    const begun = latest.get(student.userId);
    const own = drawn.get(student.userId);
    const design = begun ? pinnedDesign(tx, begun.revisionId) : pool.design;
    const sources: PrintSource[] = begun
      ? (stored.get(begun.id) ?? []).map((slot) => ({
          ...slot,
          passageId: slot.passageVersionId,
          content: contents.get(slot.versionId) as QuestionContent,
        }))
      : presented(own?.slots ?? [], own?.seed ?? '', pool.design, contents, passageOf);
    const number = begun?.number ?? own?.number ?? 1;
    return { student, number, code: receiptCode(begun?.seed ?? own?.seed ?? ''), design, sources };
  });
  return ok({ papers, passages });
}

/** The questions of a drawn paper as its seed presents them. */
function presented<Slot extends PaperSlot>(
  slots: readonly Slot[],
  seed: string,
  design: ExamDesign,
  contents: ReadonlyMap<string, QuestionContent>,
  passageOf: ReadonlyMap<string, string>,
): (Slot & PrintSource)[] {
  const titles = new Map(design.parts.map((part) => [part.id, part.title]));
  return slots.map((slot, position) => {
    const content = contents.get(slot.versionId) as QuestionContent;
    return {
      ...slot,
      partTitle: titles.get(slot.partId) ?? '',
      passageId: (slot.passageId && passageOf.get(slot.passageId)) || null,
      content,
      presentation: present(content, seededRandom(seed, `slot/${position}`), design),
    };
  });
}

/**
 * The one paper of an anonymous sitting in print: the same for everyone, and for ever, so that no paper tells whose it is.
 * It fixes the sitting's questions as a first attempt would, and with them all that could be drawn.
 */
export function paperForEveryone(
  tx: Tx,
  context: Context,
  row: SittingRow,
): Result<{
  paper: Omit<DrawnPaper, 'sources'> & { sources: (PaperSlot & PrintSource)[] };
  passages: ReadonlyMap<string, Rich>;
}> {
  const { db, now } = context;
  if (row.state !== 'scheduled') return refused('conflict', 'Papers are printed once the sitting is scheduled.');
  const pool = poolOf(tx, db, row, now);
  const seed = paperSeed(db, row.id, 'everyone', 1);
  const slots = drawPaper(pool.design, pool.snapshot, seed, new Set(), pool.plan);
  if (!slots) return refused('conflict', 'No paper can be drawn: the plan check says why.');
  freezeVersions(
    tx,
    pool.snapshot.entries.map((one) => one.versionId),
    now,
  );
  const passageOf = freezePassages(tx, context, [
    ...new Set(pool.snapshot.entries.flatMap((one) => one.passageId ?? [])),
  ]);
  const contents = frozenContents(tx, [...new Set(slots.map((slot) => slot.versionId))]);
  const sources = presented(slots, seed, pool.design, contents, passageOf);
  const paper = { code: 'The same for everyone', design: pool.design, sources };
  return ok({ paper, passages: passageContents(tx, [...passageOf.values()]) });
}
