import { and, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
import { richFromText } from '@/core/base/rich';
import { momentText } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { blankOffScreen } from '@/core/exam/design';
import { itemContent } from '@/core/exam/items/item';
import { type ItemType, itemKinds, itemTypes } from '@/core/exam/items/kinds';
import { neededFor } from '@/core/exam/snapshot';
import type { QuestionContent } from '@/core/question/content';
import { afterLedAct, openNow, whyNotAct, whyNotActSaid } from '@/core/round/ledRound';
import { rulesThatHold } from '@/core/round/roundRules';
import type { Tx } from '@/db/client';
import {
  attempt,
  exam,
  examRevision,
  mark,
  paperSlot,
  poolSnapshot,
  question,
  questionVersion,
  round,
  sitting,
} from '@/db/schema';
import { markAgain } from '../attempt/endAttempt';
import { roundPaper } from '../attempt/roundPaper';
import { freezeVersions } from '../attempt/startAttempt';
import { courseSnapshot } from '../bank/courseSnapshot';
import { changeContent } from '../bank/versions';
import { beginItemBank } from '../exam/itemBank';
import { addItem } from '../exam/items';
import { tell } from '../house/bus';
import { type Context, newId } from '../house/context';
import { command } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { attemptWithRules } from '../records/audience';
import { roundOf } from '../records/roundOf';
import { lastRules, openRound } from './beginRound';
import { toRound } from './toRound';

/** A thing that is asked without preparation: how it is answered, and its words where they do not stand on the board. */
const asked = z.object({
  type: z.enum(itemTypes),
  choices: z
    .number({ message: 'Say how many choices.' })
    .int()
    .min(2, 'At least two choices.')
    .max(20, 'At most 20 choices.'),
  text: z.string().trim().max(500, 'At most 500 characters.').default(''),
});

/** The content behind it, without a key. */
function contentOf({ type, choices, text }: z.output<typeof asked>, number: number, key = ''): QuestionContent {
  const read = itemContent({ label: String(number), type, choices, start: 'A', key });
  if (!read.ok) throw new RangeError(read.message);
  return { ...read.content, stem: richFromText(text || `Question ${number}`) } as QuestionContent;
}

/** Asks a single thing now: a round of one question, which is open at once. Its key may be given afterwards. */
export const askNow = command({
  admits: toCourse('sitting.change'),
  takes: [asked],
  logs: 'round.ask',
  does({ tx, context, now, courseId, record, actor, timeZone }, thing): Result<{ sittingId: string }> {
    const examId = newId();
    const revisionId = newId();
    const title = `Asked on the spot, ${momentText(now, timeZone)}`;
    tx.insert(exam)
      .values({
        id: examId,
        courseId,
        title,
        currentRevisionId: revisionId,
        createdBy: actor.userId,
        createdAt: now,
        // It is no exam to be planned and given again: it stands among the archived ones.
        archivedAt: now,
      })
      .run();
    tx.insert(examRevision)
      .values({ id: revisionId, examId, number: 1, design: blankOffScreen(newId()), createdAt: now })
      .run();
    beginItemBank(tx, context, examId, title);
    const rules = rulesThatHold({ ...lastRules(tx, actor.userId), pace: 'led' });
    const begun = openRound(tx, context, {
      courseId,
      examId,
      revisionId,
      title,
      rules: { ...rules, seconds: null },
      sectionId: null,
      onTheSpot: true,
    });
    if (!begun.ok) return begun;
    const added = add(tx, context, begun.value.sittingId, thing);
    if (!added.ok) return added;
    record({ subjectId: begun.value.sittingId });
    return begun;
  },
});

/** Asks one more thing in a round that was begun on the spot: whoever is in it stays in. */
export const askAnother = command({
  admits: toRound('sitting.change'),
  takes: [asked],
  unlogged: 'it stands in the round itself',
  does({ tx, context, sittingId, held, afterwards }, thing): Result<null> {
    if (!held.onTheSpot) return refused('conflict', 'The questions of this round are those of its exam.');
    afterwards(() => tell({ sittingId, what: 'round' }));
    return add(tx, context, sittingId, thing);
  },
});

/** Adds a question to the exam of a round, to its pool, and to the paper of everybody who is in; and opens it. */
function add(tx: Tx, context: Context, sittingId: string, thing: z.output<typeof asked>): Result<null> {
  const { db, now } = context;
  const held = roundOf(tx, sittingId);
  const row = tx.select().from(sitting).where(eq(sitting.id, sittingId)).get();
  const found =
    row &&
    tx
      .select({ exam, revision: examRevision })
      .from(exam)
      .innerJoin(examRevision, eq(examRevision.id, exam.currentRevisionId))
      .where(eq(exam.id, row.examId))
      .get();
  if (!held?.led || !row || !found) return refused('conflict', 'This round is not led.');
  if (openNow(held.led, now) !== null) return refused('conflict', 'Another question is open: close it first.');
  if (held.stoppedAt !== null) return refused('conflict', 'This round has been stopped.');
  const number = held.led.questions.length;
  const stored = addItem(tx, context, found, contentOf(thing, number + 1));
  const { revisionId } = stored;
  tx.update(examRevision).set({ frozenAt: now }).where(eq(examRevision.id, revisionId)).run();
  tx.update(sitting).set({ revisionId }).where(eq(sitting.id, sittingId)).run();
  tx.update(attempt).set({ revisionId }).where(eq(attempt.sittingId, sittingId)).run();
  fixPool(tx, context, row, stored.design);
  const led = {
    ...held.led,
    questions: [...held.led.questions, { phase: 'ahead', vote: 0, openedAt: null, endsAt: null } as const],
  };
  const act = { kind: 'open', question: number, limit: null } as const;
  const why = whyNotAct(led, act, now);
  if (why) return refused('conflict', whyNotActSaid[why]);
  tx.update(round)
    .set({ led: afterLedAct(led, act, now) })
    .where(eq(round.sittingId, sittingId))
    .run();
  const paper = roundPaper(tx, db, { ...row, revisionId }, held);
  const slot = paper?.[number];
  if (!slot) return refused('conflict', 'The question could not be put on the papers.');
  freezeVersions(tx, [slot.versionId], now);
  const papers = tx.select({ id: attempt.id }).from(attempt).where(eq(attempt.sittingId, sittingId)).all();
  const { passageId: _, ...on } = slot;
  for (const one of papers)
    tx.insert(paperSlot)
      .values({
        ...on,
        id: newId(),
        attemptId: one.id,
        position: number,
        partTitle: found.revision.design.parts[0]?.title ?? '',
      })
      .run();
  return ok(null);
}

/** What can be drawn from now on, with what was added. */
function fixPool(tx: Tx, context: Context, row: typeof sitting.$inferSelect, design: ExamDesign): void {
  const { now } = context;
  const { snapshot } = courseSnapshot(tx, row.courseId, { design, examId: row.examId, now });
  const last = tx
    .select({ takenAt: sql<number>`max(${poolSnapshot.takenAt})` })
    .from(poolSnapshot)
    .where(eq(poolSnapshot.sittingId, row.id))
    .get();
  tx.insert(poolSnapshot)
    .values({
      id: newId(),
      sittingId: row.id,
      takenAt: Math.max(now, (last?.takenAt ?? 0) + 1),
      snapshot: neededFor(design, snapshot),
    })
    .run();
}

/**
 * Gives the key of a question that was asked on the spot, or another one: every answer to it is scored by it from now on.
 */
export const giveKey = command({
  admits: toRound('sitting.change'),
  takes: [z.object({ question: z.number().int().min(0).max(2_000), key: z.string().max(2_000) })],
  logs: 'round.key',
  does({ tx, context, now, sittingId, sitting: row, held, record, afterwards }, input): Result<null> {
    const slot = held.onTheSpot ? roundPaper(tx, context.db, row, held)?.[input.question] : undefined;
    if (!slot) return refused('conflict', 'Mend the key of this question in its bank.');
    const current = tx
      .select({ head: question, version: questionVersion })
      .from(question)
      .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
      .where(eq(question.id, slot.questionId))
      .get();
    if (!current) return refused('conflict', 'This question is gone.');
    const { type } = current.version.content;
    const kind = itemKinds[type as ItemType];
    const choices = 'choices' in current.version.content ? current.version.content.choices.length : 4;
    const read = itemContent({ label: '', type: type as ItemType, choices, start: 'A', key: input.key.trim() });
    if (!read.ok) return refused('bad-input', read.message, 'key');
    if (kind.key === 'required' && input.key.trim() === '') return refused('bad-input', 'Say what is right.', 'key');
    const content = { ...read.content, stem: current.version.content.stem } as QuestionContent;
    const changed = changeContent(
      tx,
      context,
      { id: current.head.id, currentVersionId: current.version.id, shortName: current.head.shortName },
      current.version,
      content,
    );
    freezeVersions(tx, [changed.id], now);
    fixPool(tx, context, row, designOf(tx, row.revisionId));
    // Choices keep their ids, so that answers stay what they were; only what judges them is other.
    const papers = tx
      .select({ slotId: paperSlot.id, attemptId: attempt.id, state: attempt.state })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .where(and(eq(attempt.sittingId, sittingId), eq(paperSlot.questionId, slot.questionId)))
      .all();
    const ids = papers.map((one) => one.slotId);
    for (let i = 0; i < ids.length; i += 500) {
      const some = ids.slice(i, i + 500);
      tx.update(paperSlot).set({ versionId: changed.id }).where(inArray(paperSlot.id, some)).run();
      tx.update(mark)
        .set({ outdated: true })
        .where(and(inArray(mark.slotId, some), eq(mark.kind, 'automatic')))
        .run();
    }
    for (const { attemptId, state } of papers) {
      const one = state === 'handed-in' ? attemptWithRules(context.db, attemptId) : null;
      if (one) markAgain(tx, one, now);
    }
    record({ subjectId: sittingId, detail: { question: input.question } });
    afterwards(() => {
      tell({ sittingId, what: 'round' });
      tell({ sittingId, what: 'rules' });
    });
    return ok(null);
  },
});

/** A design as it is stored; while a question is added it is not frozen yet. */
const designOf = (tx: Tx, revisionId: string): ExamDesign => {
  const row = tx
    .select({ design: examRevision.design })
    .from(examRevision)
    .where(eq(examRevision.id, revisionId))
    .get();
  if (!row) throw new Error(`There is no revision ${revisionId}.`);
  return row.design;
};
