import { and, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import { markingOrder } from '@/core/marking/markingOrder';
import { groupSimilar } from '@/core/marking/similar';
import type { QuestionContent } from '@/core/question/content';
import { stemLine } from '@/core/question/content';
import { definitionOf, typesMarkedByHand } from '@/core/question/definitions';
import type { Rubric } from '@/core/question/types/written/content';
import type { Db } from '@/db/client';
import { attempt, mark, paperSlot, question, sitting, user } from '@/db/schema';
import { passageContents } from '../bank/passages';
import { documentOf, type ShownDocument } from '../exam/shownDocument';
import type { Context } from '../house/context';
import { query } from '../house/useCase';
import { admit } from '../people/permission';
import { planOf, sittingOf } from '../records/audience';
import { newestMark } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import { type AnswerBody, answerWords, bodiesOf, isOnPaper } from './answerBodies';
import { type SavedComment, savedComments } from './savedComments';
import { toMarkedSitting } from './toMarking';

/** In which order answers come: mixed, fixed for each marker; as they were handed in; or alike ones beside one another. */
export const markingOrders = ['mixed', 'handed-in', 'similar'] as const;
export type MarkingOrder = (typeof markingOrders)[number];

/** Answers that stand beside one another by similarity are at least so much alike. */
const besides = 0.7;

/** How many answers come with the page; the others are fetched as the marker walks on. */
const answersAtOnce = 20;

/** What stands for an answer before it is read. */
export type AnswerHead = {
  slotId: string;
  questionId: string;
  /** Its place in this marker's order, from 1: all that stands for the student while names are hidden. */
  number: number;
  /** The number of its paper in this marker's order. */
  paper: number;
  points: number | null;
};

/** A question as its marker needs it. */
export type QuestionToMark = {
  questionId: string;
  name: string;
  stem: Rich;
  /** The passage that stands beside the question on the papers. */
  passage: Rich | null;
  modelAnswer: Rich;
  rubric: Rubric | null;
  comments: SavedComment[];
};

export type MarkingPage = {
  sittingTitle: string;
  /** The paper of an off-screen exam. */
  document: ShownDocument | null;
  questions: QuestionToMark[];
  heads: AnswerHead[];
  /** The first of them, from the first that waits on. */
  bodies: AnswerBody[];
  /** Whether the sitting's release plan ever shows students the comments. */
  commentsShown: boolean;
  /** Whether this person can go on to the results. */
  seesResults: boolean;
};

type Wanted = { sittingId: string; questionId?: string; slotIds?: readonly string[] };

/** The answers marked by hand of handed-in attempts, without their words. */
function rowsOf(db: Db, courseId: string, { sittingId, questionId, slotIds }: Wanted) {
  return db
    .select({
      slotId: paperSlot.id,
      attemptId: paperSlot.attemptId,
      questionId: paperSlot.questionId,
      position: paperSlot.position,
      versionId: paperSlot.versionId,
      passageVersionId: paperSlot.passageVersionId,
      outOf: paperSlot.points,
      points: mark.points,
      endedAt: attempt.endedAt,
      sittingTitle: sitting.title,
      sittingId: sitting.id,
      examId: sitting.examId,
      revisionId: attempt.revisionId,
      shortName: question.shortName,
      student: user.name,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(user, eq(user.id, attempt.userId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(mark, newestMark)
    .where(
      and(
        eq(sitting.id, sittingId),
        eq(sitting.courseId, courseId),
        questionId === undefined ? undefined : eq(paperSlot.questionId, questionId),
        slotIds === undefined ? undefined : inArray(paperSlot.id, [...slotIds]),
        eq(attempt.state, 'handed-in'),
        inArray(question.type, typesMarkedByHand),
        // An empty answer has its 0 from the rule, and there is nothing to read; what stands on paper has none.
        sql`(${mark.kind} is null or ${mark.kind} not in ('automatic', 'left-out'))`,
      ),
    )
    .all();
}

type Row = ReturnType<typeof rowsOf>[number];

/** Answers in the order asked for. A pile of papers lies by name: mixing it would only cost the marker the search. */
function inOrder(db: Db, rows: Row[], order: MarkingOrder, markerId: string, key: string): Row[] {
  const [first] = rows;
  if (!first) return [];
  if (isOnPaper(frozenContents(db, [first.versionId]).get(first.versionId)))
    return [...rows].sort((a, b) => a.student.localeCompare(b.student));
  const bySlot = new Map(rows.map((row) => [row.slotId, row]));
  const pick = (ids: string[]) => ids.map((id) => bySlot.get(id) as Row);
  const mixed = () => markingOrder([...bySlot.keys()], markerId, key);
  if (order === 'handed-in')
    return [...rows].sort((a, b) => (a.endedAt ?? 0) - (b.endedAt ?? 0) || (a.slotId < b.slotId ? -1 : 1));
  if (order === 'mixed') return pick(mixed());
  const words = answerWords(db, rows);
  const texts = mixed().map((id) => ({ id, text: words.get(id) ?? '' }));
  return pick(groupSimilar(texts, besides).flatMap((group) => group.members.map((one) => one.id)));
}

/**
 * All answers to one written question of a sitting, names left out, in the order asked for; answers on paper by the names
 * on the papers.
 */
export const answersToMark = query({
  admits: toMarkedSitting,
  takes: [id('question'), z.enum(markingOrders).default('mixed')],
  does({ courseId, sittingId, context }, questionId, order): Result<MarkingPage> {
    return questionPage(context, courseId, sittingId, questionId, order);
  },
});

/**
 * The page of the answers to one question, for whoever has been admitted to it.
 *
 * @param takes which of them
 */
export function questionPage(
  context: Context,
  courseId: string,
  sittingId: string,
  questionId: string,
  order: MarkingOrder,
  takes: (slotId: string) => boolean = () => true,
): Result<MarkingPage> {
  const rows = rowsOf(context.db, courseId, { sittingId, questionId }).filter((row) => takes(row.slotId));
  const ordered = inOrder(context.db, rows, order, context.actor.userId, questionId);
  return pageOf(context, courseId, ordered, (row) => row.slotId);
}

/** All answers of a sitting, paper by paper in this marker's own order: for answers that depend on one another. */
export const papersToMark = query({
  admits: toMarkedSitting,
  does({ courseId, sittingId, context }): Result<MarkingPage> {
    const byPaper = new Map<string, Row[]>();
    for (const row of rowsOf(context.db, courseId, { sittingId }))
      byPaper.set(row.attemptId, [...(byPaper.get(row.attemptId) ?? []), row]);
    const ordered = markingOrder([...byPaper.keys()], context.actor.userId, sittingId).flatMap((attemptId) =>
      (byPaper.get(attemptId) as Row[]).sort((a, b) => a.position - b.position),
    );
    return pageOf(context, courseId, ordered, (row) => row.attemptId);
  },
});

function pageOf(context: Context, courseId: string, rows: Row[], paperOf: (row: Row) => string): Result<MarkingPage> {
  const { db } = context;
  const [first] = rows;
  if (!first) return notFound('marking');
  const papers = new Map<string, number>();
  const heads = rows.map((row, i): AnswerHead => {
    const key = paperOf(row);
    papers.set(key, papers.get(key) ?? papers.size + 1);
    return {
      slotId: row.slotId,
      questionId: row.questionId,
      number: i + 1,
      paper: papers.get(key) as number,
      points: row.points,
    };
  });
  const waiting = heads.findIndex((head) => head.points === null);
  const from = Math.max(0, waiting);
  const window = rows.slice(from, from + answersAtOnce);
  return ok({
    sittingTitle: first.sittingTitle,
    document: documentOf(first.examId, pinnedDesign(db, first.revisionId)),
    commentsShown: showsComments(db, courseId, first.sittingId),
    seesResults: admit(context, courseId, 'results.publish').ok,
    questions: questionsOf(db, courseId, rows),
    heads,
    bodies: bodiesOf(
      db,
      window.map((row) => row.slotId),
    ),
  });
}

function showsComments(db: Db, courseId: string, sittingId: string): boolean {
  const row = sittingOf(db, courseId, sittingId);
  const plan = row && planOf(row);
  return Boolean(plan?.comments?.length && plan.questions?.length);
}

/** The questions of some answers, each as its first answer's version shows it. */
function questionsOf(db: Db, courseId: string, rows: readonly Row[]): QuestionToMark[] {
  const firsts = new Map<string, Row>();
  for (const row of rows) if (!firsts.has(row.questionId)) firsts.set(row.questionId, row);
  const all = [...firsts.values()].sort((a, b) => a.position - b.position);
  const contents = frozenContents(
    db,
    all.map((row) => row.versionId),
  );
  const passages = passageContents(
    db,
    all.flatMap((row) => row.passageVersionId ?? []),
  );
  const comments = savedComments(db, courseId, [...firsts.keys()]);
  return all.map((row) => {
    const content = contents.get(row.versionId) as QuestionContent;
    return {
      questionId: row.questionId,
      name: row.shortName || stemLine(content),
      stem: content.stem,
      passage: (row.passageVersionId && passages.get(row.passageVersionId)) || null,
      ...definitionOf(content.type).markingAids(content),
      comments: comments.get(row.questionId) ?? [],
    };
  });
}

/** Further answers of a page, as the marker walks on. */
export const moreAnswers = query({
  admits: toMarkedSitting,
  takes: [z.array(id('slot')).max(10_000)],
  does({ courseId, sittingId, context }, slotIds): Result<AnswerBody[]> {
    const some = slotIds.slice(0, 10 * answersAtOnce);
    const own = new Set(rowsOf(context.db, courseId, { sittingId, slotIds: some }).map((row) => row.slotId));
    return ok(
      bodiesOf(
        context.db,
        some.filter((id) => own.has(id)),
      ),
    );
  },
});
