import { and, asc, eq, inArray } from 'drizzle-orm';
import { tryState } from '@/core/attempt/tries';
import { type EffectOnSitting, effectOnSitting, gainOf, remarked } from '@/core/marking/remarkingEffect';
import type { RemarkingPolicy, Rescored } from '@/core/marking/remarkingPolicy';
import { sittingResult } from '@/core/marking/sittingResult';
import type { QuestionContent } from '@/core/question/content';
import { scoreResponse } from '@/core/question/score';
import type { Db, Tx } from '@/db/client';
import { attempt, mark, paperSlot, questionTry, response, sitting, user } from '@/db/schema';
import { rulesOf, type SittingRow } from '../records/audience';
import { newestMark, scoredAttempts } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import { differs, standingPublications } from '../records/published';

/** How one student's result of a sitting changes. */
export type ChangedResult = {
  sittingId: string;
  userId: string;
  name: string;
  before: { earned: number; possible: number };
  after: { earned: number; possible: number };
  /** Whether what stands published would no longer be the result. */
  published: boolean;
};

/** What a re-mark does to one sitting, over everybody who has a result in it. */
export type SittingEffect = Omit<EffectOnSitting, 'changed'> & { sittingId: string; title: string };

export type Slot = {
  slot: typeof paperSlot.$inferSelect;
  sitting: SittingRow;
  value: unknown;
  revision: number | null;
  newest: typeof mark.$inferSelect | null;
};

/** The places of a question on papers that have been handed in and are scored. */
export function slotsOf(db: Db | Tx, courseId: string, questionId: string): Slot[] {
  return db
    .select({ slot: paperSlot, sitting, value: response.value, revision: response.revision, newest: mark })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(
      and(
        eq(paperSlot.questionId, questionId),
        eq(sitting.courseId, courseId),
        eq(sitting.scored, true),
        eq(attempt.state, 'handed-in'),
      ),
    )
    .all();
}

/** A mark that would be written. Where the points are the same it only says that they no longer tell how hard the question is. */
export type Change = { row: Slot; points: number | null; same: boolean };

type Worked = { changes: Change[]; byPerson: number; answers: number };

/** What a policy makes of every mark of a question. */
export function workOut(db: Db | Tx, slots: readonly Slot[], policy: RemarkingPolicy, key: QuestionContent): Worked {
  const contents = frozenContents(
    db,
    slots.map((one) => one.slot.versionId),
  );
  const tries = triesBySlot(
    db,
    slots.map((one) => one.slot.id),
  );
  const changes: Change[] = [];
  let kept = 0;
  for (const row of slots) {
    const { slot, newest, value } = row;
    const own = contents.get(slot.versionId) as QuestionContent;
    const judge = (given: unknown): Rescored | null => {
      const old = scoreResponse(own, slot.presentation, given);
      const now = scoreResponse(key, slot.presentation, given);
      return old.kind === 'by-hand' || now.kind === 'by-hand'
        ? null
        : { old: old.credit, new: now.credit, again: false };
    };
    const rules = rulesOf(row.sitting);
    const tried = tries.get(slot.id) ?? [];
    const judged: Rescored[] = tried.flatMap((one) => {
      const found = judge(one.value);
      return found ? [{ ...found, again: one.again }] : [];
    });
    const state = tryState(tried, rules, slot.againAt !== null);
    const changedSince = tried.length > 0 && !state.closed && tried.at(-1)?.responseRevision !== (row.revision ?? 0);
    if (tried.length === 0 || changedSince) {
      const last = judge(value);
      if (last)
        judged.push({
          ...last,
          again: tried.length > 0 && slot.againAt !== null && state.used >= state.most,
        });
      else judged.length = 0;
    }
    const made = remarked(newest, judged, slot.points, policy, rules);
    if (made.kind === 'kept-by-person') kept += 1;
    else if (made.kind === 'changed') changes.push({ row, points: made.points, same: made.same });
  }
  return { changes, byPerson: kept, answers: slots.length };
}

function triesBySlot(db: Db | Tx, slotIds: readonly string[]): Map<string, (typeof questionTry.$inferSelect)[]> {
  const rows = db
    .select()
    .from(questionTry)
    .where(inArray(questionTry.slotId, [...slotIds]))
    .orderBy(asc(questionTry.number))
    .all();
  const bySlot = new Map<string, (typeof questionTry.$inferSelect)[]>();
  for (const row of rows) bySlot.set(row.slotId, [...(bySlot.get(row.slotId) ?? []), row]);
  return bySlot;
}

/** Who would gain or lose what, and what that makes of each sitting. */
export function effectOf(
  db: Db | Tx,
  changes: readonly Change[],
): { results: ChangedResult[]; sittings: SittingEffect[] } {
  const instead = new Map(changes.map(({ row, points }) => [row.slot.id, points]));
  const touched = new Map(changes.map(({ row }) => [row.sitting.id, row.sitting]));
  const results: ChangedResult[] = [];
  const sittings: SittingEffect[] = [];
  for (const [sittingId, row] of touched) {
    const of = (attempts: ReturnType<typeof scoredAttempts>) => {
      const byStudent = new Map<string, typeof attempts>();
      for (const one of attempts) byStudent.set(one.userId, [...(byStudent.get(one.userId) ?? []), one]);
      return new Map([...byStudent].map(([userId, own]) => [userId, sittingResult(own, row.attemptCounts)]));
    };
    const { changed, ...effect } = effectOnSitting(
      of(scoredAttempts(db, { sittingId })),
      of(scoredAttempts(db, { sittingId }, instead)),
    );
    const published = standingPublications(db, sittingId);
    for (const one of changed) {
      const standing = published.get(one.userId);
      results.push({
        sittingId,
        userId: one.userId,
        name: '',
        before: { earned: one.before.earned, possible: one.before.possible },
        after: { earned: one.after.earned, possible: one.after.possible },
        published: standing !== undefined && differs(standing, one.after),
      });
    }
    sittings.push({ sittingId, title: row.title, ...effect });
  }
  const names = new Map(
    db
      .select({ id: user.id, name: user.name })
      .from(user)
      .where(inArray(user.id, [...new Set(results.map((one) => one.userId))]))
      .all()
      .map((row) => [row.id, row.name]),
  );
  return {
    results: results
      .map((one) => ({ ...one, name: names.get(one.userId) ?? '' }))
      .sort((a, b) => gainOf(b) - gainOf(a) || a.name.localeCompare(b.name)),
    sittings,
  };
}
