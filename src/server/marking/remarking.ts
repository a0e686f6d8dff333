import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import katex from 'katex';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { typeset } from '@/core/base/typeset';
import { counted } from '@/core/base/words';
import { type RemarkingPolicy, remarkingPolicies } from '@/core/marking/remarkingPolicy';
import type { QuestionContent } from '@/core/question/content';
import { stemLine } from '@/core/question/content';
import { definitionOf } from '@/core/question/definitions';
import type { Db, Tx } from '@/db/client';
import { bank, courseBank, question, questionVersion, remarking } from '@/db/schema';
import { changeContent } from '../bank/versions';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { fingerprint, previewKey, unlessAsSeen } from '../house/staged';
import { undoable } from '../house/undoable';
import { command, query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { takeBackMarks, takenBackSaid, writeMarks } from './giveMark';
import { type Change, type ChangedResult, effectOf, type SittingEffect, slotsOf, workOut } from './remarkingEffect';

export type RemarkingPreview = {
  questionName: string;
  bankId: string;
  /** The version whose key judges, and the versions that stand on papers. */
  version: number;
  onPapers: number[];
  policy: RemarkingPolicy;
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
  policy: z.enum(remarkingPolicies),
  /** Empty: all. */
  sittingIds: z.array(id('sitting')).max(500).default([]),
});

type RemarkInput = z.output<typeof remarkInput>;

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

const keyOf = (policy: RemarkingPolicy, versionId: string, changes: readonly Change[]): string =>
  fingerprint([policy, versionId, changes.map(({ row, points }) => [row.slot.id, row.newest?.id ?? 0, points]).sort()]);

type Prepared = {
  preview: RemarkingPreview;
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
export const previewRemarking = query({
  admits: toCourse('marking.change'),
  takes: [id('question'), remarkInput],
  does({ courseId, context }, questionId, input): Result<RemarkingPreview> {
    const prepared = prepare(context.db, courseId, questionId, input);
    return prepared.ok ? ok(prepared.value.preview) : prepared;
  },
});

export type RemarkingOutcomes = {
  questionName: string;
  bankId: string;
  /** The version whose key judges, and the versions that stand on papers. */
  version: number;
  onPapers: number[];
  /** Sittings that have the question on papers. */
  choices: { sittingId: string; title: string }[];
  /** What each way of marking anew would change, in the order in which they are offered. */
  outcomes: RemarkingPreview[];
};

/** What each way of marking a question anew would change, side by side, without changing anything. */
export const remarkingOutcomes = query({
  admits: toCourse('marking.change'),
  takes: [id('question'), remarkInput.shape.sittingIds],
  does({ courseId, context }, questionId, sittingIds): Result<RemarkingOutcomes> {
    const outcomes: RemarkingPreview[] = [];
    for (const policy of remarkingPolicies) {
      const prepared = prepare(context.db, courseId, questionId, { policy, sittingIds });
      if (!prepared.ok) return prepared;
      outcomes.push(prepared.value.preview);
    }
    const [first] = outcomes as [RemarkingPreview, ...RemarkingPreview[]];
    const { questionName, bankId, version, onPapers, choices } = first;
    return ok({ questionName, bankId, version, onPapers, choices, outcomes });
  },
});

/**
 * How many papers that were handed in hold a question with another key than it has now, and how many of their answers would
 * earn otherwise by that of now.
 */
export const oldKeyPapers = query({
  admits: toCourse('marking.change'),
  takes: [id('question')],
  does({ courseId, db }, questionId): Result<{ papers: number; changing: number }> {
    const prepared = prepare(db, courseId, questionId, { policy: 'new-key', sittingIds: [] });
    if (!prepared.ok) return prepared;
    const { versionId, preview } = prepared.value;
    const old = slotsOf(db, courseId, questionId).filter((one) => one.slot.versionId !== versionId);
    return ok({ papers: new Set(old.map((one) => one.slot.attemptId)).size, changing: preview.changing });
  },
});

const reasonInput = z.string().trim().min(1, 'Say why it is marked anew.').max(1_000, 'At most 1,000 characters.');

type Applied = { auditId: number; changed: number };

/** A question was marked anew: its marks are taken back where nobody has marked since. */
export const questionMarkedAnew = undoable<{ courseId: string; remarkingId: string }>('marking.remark', {
  action: 'marking.change',
  says: (_kept, { answers, reason }) => `${counted(Number(answers), 'answer')} marked anew: ${String(reason)}`,
  apply(tx, context, { courseId, remarkingId }) {
    const taken = takeBackMarks(context, courseId, remarkingId);
    if (!taken.ok) return taken;
    tx.update(remarking)
      .set({ takenBackAt: context.now })
      .where(and(eq(remarking.id, remarkingId), eq(remarking.courseId, courseId)))
      .run();
    return ok(takenBackSaid(taken.value));
  },
});

/** Writes down what was prepared, if it is what was looked at. */
function write(
  tx: Tx,
  context: Context,
  courseId: string,
  questionId: string,
  { changes, versionId }: Prepared,
  { policy, sittingIds, reason }: { policy: RemarkingPolicy; sittingIds: readonly string[]; reason: string },
): Applied {
  const remarkingId = newId();
  // What has judged answers stays as it is: a later edit makes the next version.
  tx.update(questionVersion)
    .set({ frozenAt: context.now })
    .where(and(eq(questionVersion.id, versionId), isNull(questionVersion.frozenAt)))
    .run();
  tx.insert(remarking)
    .values({
      id: remarkingId,
      courseId,
      questionId,
      versionId,
      policy,
      sittingIds: sittingIds.length ? [...sittingIds] : null,
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
        reason,
        unobserved: policy === 'everyone' ? ('everyone-earns' as const) : null,
        comment: row.newest?.comment ?? '',
        notes: row.newest?.notes ?? [],
        batch: remarkingId,
      },
    })),
  );
  const auditId = record(tx, context, {
    action: 'marking.remark',
    courseId,
    subjectId: questionId,
    detail: { remarkingId, policy, reason, answers: changes.length },
    undo: questionMarkedAnew.of({ courseId, remarkingId }),
  });
  return { auditId, changed: changes.filter((one) => !one.same).length };
}

const mayHaveChanged = 'Marks, answers or the question have';

/** Marks a question anew, exactly as it was looked at. Published results stay as they are, and are flagged as changed. */
export const applyRemarking = command({
  admits: toCourse('marking.change'),
  takes: [id('question'), remarkInput.extend({ reason: reasonInput, key: previewKey })],
  logs: 'marking.remark',
  does({ tx, courseId, context }, questionId, input): Result<Applied> {
    const prepared = prepare(tx, courseId, questionId, input);
    if (!prepared.ok) return prepared;
    const otherwise = unlessAsSeen(input.key, prepared.value.preview.key, mayHaveChanged);
    if (otherwise) return otherwise;
    if (prepared.value.preview.changing === 0) return refused('bad-input', 'Nothing would change.');
    return ok(write(tx, context, courseId, questionId, prepared.value, input));
  },
});

const acceptInput = z.object({
  text: z.string().trim().min(1).max(200, 'At most 200 characters.'),
  credit: z.number().gt(0, 'More than 0 %.').max(1, 'At most 100 %.').default(1),
});

/** The question with one more accepted answer; null where its type has none, or accepts it already. */
const withAnswer = (content: QuestionContent, answer: z.output<typeof acceptInput>): QuestionContent | null =>
  definitionOf(content.type).accepting(content, answer);

/** What accepting an answer from now on would change. */
export const previewAccept = query({
  admits: toCourse('marking.change'),
  takes: [id('question'), acceptInput],
  does({ courseId, context }, questionId, input): Result<RemarkingPreview> {
    const found = questionInCourse(context.db, courseId, questionId);
    const content = found && withAnswer(found.version.content, input);
    if (!content) return notFound('short text with a key that does not accept this');
    const prepared = prepare(context.db, courseId, questionId, { policy: 'new-key', sittingIds: [] }, content);
    return prepared.ok ? ok(prepared.value.preview) : prepared;
  },
});

/** Adds an answer to a question's key from now on, and marks anew by it: both or neither. */
export const acceptAnswer = command({
  admits: toCourse('marking.change'),
  takes: [id('question'), acceptInput.extend({ key: previewKey })],
  logs: 'question.accept',
  does({ tx, courseId, record, context }, questionId, input): Result<Applied> {
    const found = questionInCourse(tx, courseId, questionId);
    const content = found && withAnswer(found.version.content, input);
    if (!found || !content) return notFound('short text with a key that does not accept this');
    const asked = { policy: 'new-key' as const, sittingIds: [] };
    const prepared = prepare(tx, courseId, questionId, asked, content);
    if (!prepared.ok) return prepared;
    const otherwise = unlessAsSeen(input.key, prepared.value.preview.key, mayHaveChanged);
    if (otherwise) return otherwise;
    const { shortName, currentVersionId, edit } = found.question;
    const version = changeContent(tx, context, { id: questionId, currentVersionId, shortName }, found.version, content);
    tx.update(question)
      .set({ edit: edit + 1, updatedAt: context.now })
      .where(eq(question.id, questionId))
      .run();
    record({ subjectId: questionId, detail: { text: input.text, version: version.number } });
    const reason = `“${input.text}” is accepted`;
    return ok(
      write(tx, context, courseId, questionId, { ...prepared.value, versionId: version.id }, { ...asked, reason }),
    );
  },
});
