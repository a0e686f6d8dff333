import { createHash } from 'node:crypto';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import katex from 'katex';
import { z } from 'zod';
import { tryState } from '@/core/attempt/tries';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { typeset } from '@/core/base/typeset';
import { notChosen } from '@/core/marking/attemptScore';
import { byPerson } from '@/core/marking/marks';
import { everyoneEarns, type RemarkPolicy, type Rescored, remarkCredit, remarkPolicies } from '@/core/marking/remark';
import { sittingResult } from '@/core/marking/sittingResult';
import type { QuestionContent } from '@/core/question/content';
import { stemLine } from '@/core/question/content';
import { scoreResponse } from '@/core/question/score';
import type { Db, Tx } from '@/db/client';
import {
  attempt,
  bank,
  courseBank,
  mark,
  paperSlot,
  question,
  questionTry,
  questionVersion,
  remark,
  response,
  sitting,
  user,
} from '@/db/schema';
import { frozenContents } from '../attempt/paperContent';
import { changeContent } from '../bank/versions';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { admit } from '../people/permission';
import { differs, standingPublications } from '../release/results';
import { rulesOf, type SittingRow } from '../sitting/audience';
import { takeBackMarks, writeMarks } from './giveMark';
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

export type RemarkPreview = {
  questionName: string;
  bankId: string;
  /** The version whose key judges, and the versions that stand on papers. */
  version: number;
  onPapers: number[];
  policy: RemarkPolicy;
  /** Answers looked at; whose points change; that a person marked, and which stay. */
  answers: number;
  changing: number;
  byPerson: number;
  results: ChangedResult[];
  sittings: SittingEffect[];
  /** Sittings that have the question on papers. */
  choices: { sittingId: string; title: string }[];
  /** Names exactly what was looked at: applying anything else is refused. */
  key: string;
};

const remarkInput = z.object({
  policy: z.enum(remarkPolicies),
  /** Empty: all. */
  sittingIds: z.array(z.string().max(40)).max(500).default([]),
});

export type RemarkInput = z.output<typeof remarkInput>;

type Slot = {
  slot: typeof paperSlot.$inferSelect;
  sitting: SittingRow;
  value: unknown;
  revision: number | null;
  newest: typeof mark.$inferSelect | null;
};

/** The places of a question on papers that have been handed in and are scored. */
function slotsOf(db: Db | Tx, courseId: string, questionId: string): Slot[] {
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

/** The question in the course's banks with the version that judges. */
function questionInCourse(db: Db | Tx, courseId: string, questionId: string) {
  return db
    .select({ question, version: questionVersion })
    .from(question)
    .innerJoin(bank, eq(bank.id, question.bankId))
    .innerJoin(courseBank, and(eq(courseBank.bankId, bank.id), eq(courseBank.courseId, courseId)))
    .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
    .where(and(eq(question.id, questionId), isNull(question.retiredAt)))
    .get();
}

/** A mark that would be written. Where the points are the same it only says that they no longer tell how hard the question is. */
type Change = { row: Slot; points: number | null; same: boolean };

type Worked = { changes: Change[]; byPerson: number; answers: number };

/** What a policy makes of every mark of a question. */
function workOut(db: Db | Tx, slots: readonly Slot[], policy: RemarkPolicy, key: QuestionContent): Worked {
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

const keyOf = (policy: RemarkPolicy, versionId: string, changes: readonly Change[]): string =>
  createHash('sha256')
    .update(
      JSON.stringify([
        policy,
        versionId,
        changes.map(({ row, points }) => [row.slot.id, row.newest?.id ?? 0, points]).sort(),
      ]),
    )
    .digest('base64url');

/** The share of the points as a tenth, from 0 to 9. */
const tenthOf = ({ earned, possible }: { earned: number; possible: number }): number =>
  possible > 0 ? Math.min(9, Math.floor((earned / possible) * 10 + 1e-9)) : 0;

const shareOf = ({ earned, possible }: { earned: number; possible: number }): number =>
  possible > 0 ? earned / possible : 0;

/** Who would gain or lose what, and what that makes of each sitting. */
function effectOf(db: Db | Tx, changes: readonly Change[]): { results: ChangedResult[]; sittings: SittingEffect[] } {
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

type Prepared = {
  preview: RemarkPreview;
  changes: Change[];
  versionId: string;
};

function prepare(
  db: Db | Tx,
  courseId: string,
  questionId: string,
  { policy, sittingIds }: RemarkInput,
  instead?: QuestionContent,
): Result<Prepared> {
  const found = questionInCourse(db, courseId, questionId);
  if (!found) return notFound('question');
  const content = typeset(instead ?? found.version.content, katex);
  const all = slotsOf(db, courseId, questionId);
  const chosen = sittingIds.length ? all.filter((one) => sittingIds.includes(one.sitting.id)) : all;
  const { changes, byPerson: kept, answers } = workOut(db, chosen, policy, content);
  const versions = db
    .select({ number: questionVersion.number })
    .from(questionVersion)
    .where(inArray(questionVersion.id, [...new Set(all.map((one) => one.slot.versionId))]))
    .orderBy(asc(questionVersion.number))
    .all();
  return ok({
    changes,
    versionId: found.version.id,
    preview: {
      questionName: found.question.shortName || stemLine(content),
      bankId: found.question.bankId,
      version: found.version.number,
      onPapers: versions.map((row) => row.number),
      policy,
      answers,
      changing: changes.filter((one) => !one.same).length,
      byPerson: kept,
      ...effectOf(db, changes),
      choices: [...new Map(all.map((one) => [one.sitting.id, one.sitting.title]))].map(([sittingId, title]) => ({
        sittingId,
        title,
      })),
      key: keyOf(policy, instead ? 'to come' : found.version.id, changes),
    },
  });
}

/** What marking a question anew by a policy would change, without changing anything. */
export function previewRemark(
  context: Context,
  courseId: string,
  questionId: string,
  input: unknown,
): Result<RemarkPreview> {
  const admitted = admit(context, courseId, 'marking.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(remarkInput, input);
  if (!parsed.ok) return parsed;
  const prepared = prepare(context.db, courseId, questionId, parsed.value);
  return prepared.ok ? ok(prepared.value.preview) : prepared;
}

const reasonInput = z.string().trim().min(1, 'Say why it is marked anew.').max(1_000, 'At most 1,000 characters.');

type Applied = { remarkId: string; changed: number };

/** Writes down what was prepared, if it is what was looked at. */
function write(
  tx: Tx,
  context: Context,
  courseId: string,
  questionId: string,
  { changes, versionId }: Prepared,
  { policy, reason }: { policy: RemarkPolicy; reason: string },
): Applied {
  const remarkId = newId();
  // What has judged answers stays as it is: a later edit makes the next version.
  tx.update(questionVersion)
    .set({ frozenAt: context.now })
    .where(and(eq(questionVersion.id, versionId), isNull(questionVersion.frozenAt)))
    .run();
  tx.insert(remark)
    .values({
      id: remarkId,
      courseId,
      questionId,
      versionId,
      policy,
      reason,
      by: context.actor.userId,
      at: context.now,
    })
    .run();
  writeMarks(
    tx,
    context,
    changes.map(({ row, points }) => ({
      row,
      versionId,
      given: {
        points: points ?? 0,
        kind: points === null ? ('left-out' as const) : ('automatic' as const),
        reason: policy === 'everyone' ? everyoneEarns : reason,
        comment: row.newest?.comment ?? '',
        notes: row.newest?.notes ?? [],
        batch: remarkId,
      },
    })),
  );
  record(tx, context, {
    action: 'marking.remark',
    courseId,
    subjectId: questionId,
    detail: { remarkId, policy, reason, answers: changes.length },
  });
  return { remarkId, changed: changes.filter((one) => !one.same).length };
}

const changedSince = () =>
  refused('conflict', 'Marks, answers or the question have changed since you looked at this. Look at it once more.');

/** Marks a question anew, exactly as it was looked at. Published results stay as they are, and are flagged as changed. */
export function applyRemark(context: Context, courseId: string, questionId: string, input: unknown): Result<Applied> {
  const admitted = admit(context, courseId, 'marking.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(remarkInput.extend({ reason: reasonInput, key: z.string().max(100) }), input);
  if (!parsed.ok) return parsed;
  return context.db.transaction(
    (tx): Result<Applied> => {
      const prepared = prepare(tx, courseId, questionId, parsed.value);
      if (!prepared.ok) return prepared;
      if (prepared.value.preview.key !== parsed.value.key) return changedSince();
      if (prepared.value.preview.changing === 0) return refused('bad-input', 'Nothing would change.');
      return ok(write(tx, context, courseId, questionId, prepared.value, parsed.value));
    },
    { behavior: 'immediate' },
  );
}

/** Takes a re-mark back: the marks from before count again, where nobody has marked since. */
export function takeBackRemark(
  context: Context,
  courseId: string,
  remarkId: string,
): Result<{ takenBack: number; later: number }> {
  const admitted = admit(context, courseId, 'marking.change');
  if (!admitted.ok) return admitted;
  const taken = takeBackMarks(context, courseId, remarkId);
  if (taken.ok)
    context.db
      .update(remark)
      .set({ takenBackAt: context.now })
      .where(and(eq(remark.id, remarkId), eq(remark.courseId, courseId)))
      .run();
  return taken;
}

const acceptInput = z.object({
  text: z.string().trim().min(1).max(200, 'At most 200 characters.'),
  credit: z.number().gt(0, 'More than 0 %.').max(1, 'At most 100 %.').default(1),
});

/** The question with one more accepted answer; null where its type has none, or accepts it already. */
function withAnswer(content: QuestionContent, { text, credit }: z.output<typeof acceptInput>): QuestionContent | null {
  if (content.type !== 'short-text' || content.accepted.length === 0) return null;
  if (content.accepted.some((one) => one.text === text)) return null;
  return { ...content, accepted: [...content.accepted, { text, credit }] };
}

/** What accepting an answer from now on would change. */
export function previewAccept(
  context: Context,
  courseId: string,
  questionId: string,
  input: unknown,
): Result<RemarkPreview> {
  const admitted = admit(context, courseId, 'marking.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(acceptInput, input);
  if (!parsed.ok) return parsed;
  const found = questionInCourse(context.db, courseId, questionId);
  const content = found && withAnswer(found.version.content, parsed.value);
  if (!content) return notFound('short text with a key that does not accept this');
  const prepared = prepare(context.db, courseId, questionId, { policy: 'new-key', sittingIds: [] }, content);
  return prepared.ok ? ok(prepared.value.preview) : prepared;
}

/** Adds an answer to a question's key from now on, and marks anew by it: both or neither. */
export function acceptAnswer(context: Context, courseId: string, questionId: string, input: unknown): Result<Applied> {
  const admitted = admit(context, courseId, 'marking.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(acceptInput.extend({ key: z.string().max(100) }), input);
  if (!parsed.ok) return parsed;
  return context.db.transaction(
    (tx): Result<Applied> => {
      const found = questionInCourse(tx, courseId, questionId);
      const content = found && withAnswer(found.version.content, parsed.value);
      if (!found || !content) return notFound('short text with a key that does not accept this');
      const asked = { policy: 'new-key' as const, sittingIds: [] };
      const prepared = prepare(tx, courseId, questionId, asked, content);
      if (!prepared.ok) return prepared;
      if (prepared.value.preview.key !== parsed.value.key) return changedSince();
      const { shortName, currentVersionId, edit } = found.question;
      const version = changeContent(
        tx,
        context,
        { id: questionId, currentVersionId, shortName },
        found.version,
        content,
      );
      tx.update(question)
        .set({ edit: edit + 1, updatedAt: context.now })
        .where(eq(question.id, questionId))
        .run();
      record(tx, context, {
        action: 'question.accept',
        courseId,
        subjectId: questionId,
        detail: { text: parsed.value.text, version: version.number },
      });
      const reason = `“${parsed.value.text}” is accepted`;
      return ok(
        write(tx, context, courseId, questionId, { ...prepared.value, versionId: version.id }, { ...asked, reason }),
      );
    },
    { behavior: 'immediate' },
  );
}
