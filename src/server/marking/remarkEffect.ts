import { and, asc, eq, inArray } from 'drizzle-orm';
import { tryState } from '@/core/attempt/tries';
import { notChosen } from '@/core/marking/attemptScore';
import { byPerson } from '@/core/marking/marks';
import { everyoneEarns, type RemarkPolicy, type Rescored, remarkCredit } from '@/core/marking/remark';
import { sittingResult } from '@/core/marking/sittingResult';
import type { QuestionContent } from '@/core/question/content';
import { scoreResponse } from '@/core/question/score';
import type { Db, Tx } from '@/db/client';
import { attempt, mark, paperSlot, questionTry, response, sitting, user } from '@/db/schema';
import { frozenContents } from '../attempt/paperContent';
import { differs, standingPublications } from '../release/published';
import { rulesOf, type SittingRow } from '../sitting/audience';
import { newestMark, scoredAttempts } from './newestMarks';

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
export type SittingEffect = {
  sittingId: string;
  title: string;
  results: number;
  /** Mean share of the points, in [0, 1]. */
  meanBefore: number;
  meanAfter: number;
  /** How many results lie in each tenth of the points, from the lowest. */
  tenthsBefore: number[];
  tenthsAfter: number[];
};

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
export function workOut(db: Db | Tx, slots: readonly Slot[], policy: RemarkPolicy, key: QuestionContent): Worked {
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
    if (newest && byPerson.includes(newest.kind)) {
      kept += 1;
      continue;
    }
    // A question of a choose-part that was not chosen earns nothing, whatever becomes of it for the others.
    if (newest?.reason === notChosen && policy !== 'left-out') continue;
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
      if (!last && policy !== 'everyone' && policy !== 'left-out') continue;
      judged.push({
        ...(last ?? { old: 0, new: 0 }),
        again: tried.length > 0 && slot.againAt !== null && state.used >= state.most,
      });
    }
    const credit = remarkCredit(policy, judged, rules);
    const points = credit === null ? null : credit * slot.points;
    const before = newest?.kind === 'left-out' ? null : newest?.points;
    const same =
      before === points || (typeof before === 'number' && points !== null && Math.abs(before - points) < 1e-9);
    const told = policy !== 'everyone' || newest?.reason === everyoneEarns;
    if (!same || !told) changes.push({ row, points, same });
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

/** The share of the points as a tenth, from 0 to 9. */
const tenthOf = ({ earned, possible }: { earned: number; possible: number }): number =>
  possible > 0 ? Math.min(9, Math.floor((earned / possible) * 10 + 1e-9)) : 0;

const shareOf = ({ earned, possible }: { earned: number; possible: number }): number =>
  possible > 0 ? earned / possible : 0;

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
    const before = of(scoredAttempts(db, { sittingId }));
    const after = of(scoredAttempts(db, { sittingId }, instead));
    const published = standingPublications(db, sittingId);
    const effect: SittingEffect = {
      sittingId,
      title: row.title,
      results: 0,
      meanBefore: 0,
      meanAfter: 0,
      tenthsBefore: Array<number>(10).fill(0),
      tenthsAfter: Array<number>(10).fill(0),
    };
    for (const [userId, was] of before) {
      const is = after.get(userId);
      if (!was || !is) continue;
      effect.results += 1;
      effect.meanBefore += shareOf(was);
      effect.meanAfter += shareOf(is);
      effect.tenthsBefore[tenthOf(was)] = (effect.tenthsBefore[tenthOf(was)] as number) + 1;
      effect.tenthsAfter[tenthOf(is)] = (effect.tenthsAfter[tenthOf(is)] as number) + 1;
      if (Math.abs(was.earned - is.earned) < 1e-9 && Math.abs(was.possible - is.possible) < 1e-9) continue;
      const standing = published.get(userId);
      results.push({
        sittingId,
        userId,
        name: '',
        before: { earned: was.earned, possible: was.possible },
        after: { earned: is.earned, possible: is.possible },
        published: standing !== undefined && differs(standing, is),
      });
    }
    effect.meanBefore /= Math.max(1, effect.results);
    effect.meanAfter /= Math.max(1, effect.results);
    sittings.push(effect);
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
      .sort((a, b) => gain(b) - gain(a) || a.name.localeCompare(b.name)),
    sittings,
  };
}

const gain = ({ before, after }: ChangedResult): number => shareOf(after) - shareOf(before);
