import { and, asc, eq, inArray, lt, sql } from 'drizzle-orm';
import katex from 'katex';
import { notFound, ok, type Result } from '@/core/base/result';
import { emptyRich, type Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { typeset } from '@/core/base/typeset';
import { choosePartsOf } from '@/core/exam/paperRules';
import { markingOrder } from '@/core/marking/markingOrder';
import type { PassageNote, RubricLevels } from '@/core/marking/marks';
import { groupSimilar } from '@/core/marking/similar';
import type { QuestionContent } from '@/core/question/content';
import { stemLine } from '@/core/question/content';
import { responseText } from '@/core/question/score';
import { readResponse } from '@/core/question/student';
import { type QuestionType, typesMarkedByHand } from '@/core/question/types';
import type { Rubric } from '@/core/question/types/written/content';
import type { WrittenText } from '@/core/question/types/written/student';
import type { Db } from '@/db/client';
import { attempt, mark, paperSlot, question, response, sitting, user } from '@/db/schema';
import { frozenContents } from '../attempt/paperContent';
import { passageContents } from '../bank/passages';
import { pinnedDesign } from '../exam/pinnedDesign';
import { documentOf, type ShownDocument } from '../exam/shownDocument';
import type { Context } from '../house/context';
import { markableSittings } from './markingQueue';
import { newestMark } from './newestMarks';
import { type SavedComment, savedComments } from './savedComments';

/** In which order answers come: mixed, fixed for each marker; as they were handed in; or alike ones beside one another. */
export const markingOrders = ['mixed', 'handed-in', 'similar'] as const;
export type MarkingOrder = (typeof markingOrders)[number];

/** Answers that stand beside one another by similarity are at least so much alike. */
const besides = 0.7;

/** How many answers come with the page; the others are fetched as the marker walks on. */
export const answersAtOnce = 20;

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

/** An answer as a marker reads it, with what was given to it so far. */
export type AnswerBody = {
  slotId: string;
  text: string;
  /** The same with its form, where the question lets students give it one. */
  rich: Rich | null;
  /** Whose it is, only where it stands on paper: whoever marks it has to find the paper. */
  whose: string | null;
  /** Files handed in with it. */
  files: { id: string; name: string }[];
  revision: number;
  outOf: number;
  /** The mark this marker sees; null where there is none. */
  markId: number | null;
  points: number | null;
  comment: string;
  rubric: RubricLevels;
  notes: PassageNote[];
  /** In a choose-part: the numbers of the questions that were answered, and how many are asked for. */
  chosen: { answered: number[]; count: number; own: number } | null;
  /** What the student had answered in earlier attempts on the same paper, the latest first. */
  earlier: { attempt: number; text: string; at: Instant | null }[];
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

const isOnPaper = (content: QuestionContent | undefined): boolean =>
  content?.type === 'written' && content.onPaper === true;

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

/** The words of answers by slot. */
export function answerWords(db: Db, rows: readonly { slotId: string; versionId: string }[]): Map<string, string> {
  const contents = frozenContents(
    db,
    rows.map((row) => row.versionId),
  );
  const versions = new Map(rows.map((row) => [row.slotId, row.versionId]));
  const stored = db
    .select({ slotId: response.slotId, value: response.value, presentation: paperSlot.presentation })
    .from(response)
    .innerJoin(paperSlot, eq(paperSlot.id, response.slotId))
    .where(inArray(response.slotId, [...versions.keys()]))
    .all();
  return new Map(
    stored.map((row) => [
      row.slotId,
      responseText(contents.get(versions.get(row.slotId) ?? '') as QuestionContent, row.presentation, row.value),
    ]),
  );
}

/**
 * All answers to one written question of a sitting, names left out, in the order asked for; answers on paper by the names
 * on the papers.
 */
export function answersToMark(
  context: Context,
  courseId: string,
  sittingId: string,
  questionId: string,
  order: MarkingOrder = 'mixed',
): Result<MarkingPage> {
  const mine = markableSittings(context, courseId);
  if (!mine.ok) return mine;
  if (mine.value && !mine.value.has(sittingId)) return notFound('marking');
  return questionPage(context, courseId, sittingId, questionId, order);
}

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
export function papersToMark(context: Context, courseId: string, sittingId: string): Result<MarkingPage> {
  const mine = markableSittings(context, courseId);
  if (!mine.ok) return mine;
  if (mine.value && !mine.value.has(sittingId)) return notFound('marking');
  const byPaper = new Map<string, Row[]>();
  for (const row of rowsOf(context.db, courseId, { sittingId }))
    byPaper.set(row.attemptId, [...(byPaper.get(row.attemptId) ?? []), row]);
  const ordered = markingOrder([...byPaper.keys()], context.actor.userId, sittingId).flatMap((attemptId) =>
    (byPaper.get(attemptId) as Row[]).sort((a, b) => a.position - b.position),
  );
  return pageOf(context, courseId, ordered, (row) => row.attemptId);
}

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
    questions: questionsOf(db, courseId, rows),
    heads,
    bodies: bodiesOf(
      db,
      window.map((row) => row.slotId),
    ),
  });
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
      modelAnswer: content.type === 'written' ? content.modelAnswer : emptyRich,
      rubric: (content.type === 'written' && content.rubric) || null,
      comments: comments.get(row.questionId) ?? [],
    };
  });
}

/** Further answers of a page, as the marker walks on. */
export function moreAnswers(
  context: Context,
  courseId: string,
  sittingId: string,
  slotIds: readonly string[],
): Result<AnswerBody[]> {
  const mine = markableSittings(context, courseId);
  if (!mine.ok) return mine;
  if (mine.value && !mine.value.has(sittingId)) return notFound('marking');
  const some = slotIds.slice(0, 10 * answersAtOnce);
  const own = new Set(rowsOf(context.db, courseId, { sittingId, slotIds: some }).map((row) => row.slotId));
  return ok(
    bodiesOf(
      context.db,
      some.filter((id) => own.has(id)),
    ),
  );
}

/** Answers as a marker reads them, in the order asked for. */
export function bodiesOf(db: Db, slotIds: readonly string[]): AnswerBody[] {
  if (slotIds.length === 0) return [];
  const rows = db
    .select({
      slot: paperSlot,
      userId: attempt.userId,
      sittingId: attempt.sittingId,
      number: attempt.number,
      revisionId: attempt.revisionId,
      student: user.name,
      value: response.value,
      revision: response.revision,
      mark,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(user, eq(user.id, attempt.userId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(inArray(paperSlot.id, [...slotIds]))
    .all();
  const contents = frozenContents(
    db,
    rows.map((row) => row.slot.versionId),
  );
  const chosen = chosenOf(db, rows);
  const earlier = earlierOf(db, rows);
  const bodies = new Map(
    rows.map(({ slot, student, value, revision, mark: newest }) => {
      const content = contents.get(slot.versionId) as QuestionContent;
      const body: AnswerBody = {
        slotId: slot.id,
        text: responseText(content, slot.presentation, value),
        ...handedIn(content.type, value),
        whose: isOnPaper(content) ? student : null,
        revision: revision ?? 0,
        outOf: slot.points,
        markId: newest?.id ?? null,
        points: newest?.points ?? null,
        comment: newest?.comment ?? '',
        rubric: newest?.rubric ?? {},
        notes: newest?.notes ?? [],
        chosen: chosen.get(slot.id) ?? null,
        earlier: earlier.get(slot.id) ?? [],
      };
      return [slot.id, body] as const;
    }),
  );
  return slotIds.flatMap((id) => bodies.get(id) ?? []);
}

type BodyRow = {
  slot: typeof paperSlot.$inferSelect;
  revisionId: string;
  userId: string;
  sittingId: string;
  number: number;
};

/** Which questions of a choose-part each student has answered. */
function chosenOf(db: Db, rows: readonly BodyRow[]): Map<string, NonNullable<AnswerBody['chosen']>> {
  const counts = new Map(rows.map((row) => [row.revisionId, choosePartsOf(pinnedDesign(db, row.revisionId))]));
  const inChoice = rows.filter((row) => counts.get(row.revisionId)?.has(row.slot.partId));
  if (inChoice.length === 0) return new Map();
  const beside = db
    .select({
      attemptId: paperSlot.attemptId,
      partId: paperSlot.partId,
      position: paperSlot.position,
      type: question.type,
      value: response.value,
    })
    .from(paperSlot)
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(
      inArray(
        paperSlot.attemptId,
        inChoice.map((row) => row.slot.attemptId),
      ),
    )
    .orderBy(asc(paperSlot.position))
    .all();
  return new Map(
    inChoice.map(({ slot, revisionId }) => [
      slot.id,
      {
        answered: beside
          .filter((one) => one.attemptId === slot.attemptId && one.partId === slot.partId)
          .flatMap((one) => (readResponse(one.type, one.value) ? [one.position + 1] : [])),
        count: counts.get(revisionId)?.get(slot.partId)?.count ?? 0,
        own: slot.position + 1,
      },
    ]),
  );
}

/** What the same students had answered to the same question of the same paper in earlier attempts. */
function earlierOf(db: Db, rows: readonly BodyRow[]): Map<string, AnswerBody['earlier']> {
  const later = rows.filter((row) => row.number > 1);
  if (later.length === 0) return new Map();
  const before = db
    .select({
      slot: paperSlot,
      userId: attempt.userId,
      number: attempt.number,
      value: response.value,
      at: response.savedAt,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(response, eq(response.slotId, paperSlot.id))
    .where(
      and(
        eq(attempt.sittingId, later[0]?.sittingId ?? ''),
        inArray(attempt.userId, [...new Set(later.map((row) => row.userId))]),
        inArray(paperSlot.versionId, [...new Set(later.map((row) => row.slot.versionId))]),
        lt(attempt.number, Math.max(...later.map((row) => row.number))),
      ),
    )
    .all();
  const contents = frozenContents(
    db,
    before.map((row) => row.slot.versionId),
  );
  return new Map(
    later.map((row) => [
      row.slot.id,
      before
        .filter(
          (one) =>
            one.userId === row.userId &&
            one.number < row.number &&
            one.slot.position === row.slot.position &&
            one.slot.versionId === row.slot.versionId,
        )
        .sort((a, b) => b.number - a.number)
        .map((one) => ({
          attempt: one.number,
          text: responseText(contents.get(one.slot.versionId) as QuestionContent, one.slot.presentation, one.value),
          at: one.at,
        })),
    ]),
  );
}

/** What a written answer holds besides its words. */
function handedIn(type: QuestionType, value: unknown): Pick<AnswerBody, 'rich' | 'files'> {
  const given = type === 'written' ? (readResponse(type, value) as WrittenText | null | undefined) : null;
  return {
    rich: given?.rich ? typeset(given.rich, katex) : null,
    files: (given?.files ?? []).map(({ id, name }) => ({ id, name })),
  };
}
