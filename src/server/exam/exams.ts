import { and, asc, count, desc, eq, inArray, isNotNull, isNull, ne, sql } from 'drizzle-orm';
import { z } from 'zod';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import {
  blankDesign,
  blankOffScreen,
  designCount,
  designPoints,
  drawnLine,
  type ExamDesign,
  examDesign,
  examsDrawnFrom,
} from '@/core/exam/design';
import { poolSizeBeside } from '@/core/exam/drawPlan';
import { wayBetween } from '@/core/exam/examPools';
import type { PlanCheck } from '@/core/exam/planCheck';
import { takenOut } from '@/core/exam/takenOut';
import { stemLine } from '@/core/question/content';
import type { QuestionType } from '@/core/question/types';
import type { Db, Tx } from '@/db/client';
import { courseBank, exam, examRevision, question, questionTag, questionVersion, sitting } from '@/db/schema';
import { categoryNamesInCourse, courseSnapshot, examsOf } from '../bank/courseSnapshot';
import { objectivesInCourse } from '../bank/objectives';
import { newId } from '../house/context';
import { command, query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { checkedPlan } from './checkedPlan';
import { beginItemBank } from './itemBank';
import { type LookState, looksAt, openRemarks } from './lookState';
import { storeDesign } from './storeDesign';
import { hasDocument } from './storedDocument';
import { recordTakenOut } from './takingOut';
import { toExam } from './toExam';

export type ExamRow = {
  id: string;
  title: string;
  year: string;
  subject: string;
  level: string;
  archived: boolean;
  offScreen: boolean;
  points: number;
  questions: number;
  sittings: number;
};

/** The exams of a course, newest first, archived ones among them. */
export const listExams = query({
  admits: toCourse('exam.see'),
  does({ courseId, context }): Result<ExamRow[]> {
    const rows = context.db
      .select({
        id: exam.id,
        title: exam.title,
        year: exam.year,
        subject: exam.subject,
        level: exam.level,
        archivedAt: exam.archivedAt,
        design: examRevision.design,
        sittings: count(sitting.id),
      })
      .from(exam)
      .innerJoin(examRevision, eq(examRevision.id, exam.currentRevisionId))
      .leftJoin(sitting, eq(sitting.examId, exam.id))
      .where(eq(exam.courseId, courseId))
      .groupBy(exam.id)
      .orderBy(desc(exam.createdAt))
      .all();
    return ok(
      rows.map(({ design, archivedAt, ...row }) => ({
        ...row,
        archived: archivedAt !== null,
        offScreen: design.offScreen !== undefined,
        points: designPoints(design),
        questions: designCount(design),
      })),
    );
  },
});

const titleInput = z.string().trim().min(1, 'Give the exam a title.').max(160, 'At most 160 characters.');

/** Begins an exam with one empty part; an off-screen one with a bank for its items. */
export const createExam = command({
  admits: toCourse('exam.change'),
  takes: [z.object({ title: titleInput, offScreen: z.boolean().default(false) })],
  logs: 'exam.create',
  does({ tx, courseId, record, context }, { title, offScreen }): Result<{ examId: string }> {
    const examId = newId();
    const revisionId = newId();
    tx.insert(exam)
      .values({
        id: examId,
        courseId,
        title,
        currentRevisionId: revisionId,
        createdBy: context.actor.userId,
        createdAt: context.now,
      })
      .run();
    tx.insert(examRevision)
      .values({
        id: revisionId,
        examId,
        number: 1,
        design: offScreen ? blankOffScreen(newId()) : blankDesign(newId()),
        createdAt: context.now,
      })
      .run();
    if (offScreen) beginItemBank(tx, context, examId, title);
    record({ subjectId: examId, detail: { title } });
    return ok({ examId });
  },
});

export type OpenExam = {
  id: string;
  title: string;
  revision: number;
  edit: number;
  labels: { year: string; subject: string; level: string };
  /** Whether a sitting has pinned this revision, so that an edit makes the next one. */
  frozen: boolean;
  /** How many scheduled sittings keep an earlier revision. */
  behind: number;
  /** The lines of an off-screen exam are its items, and left out here. */
  design: ExamDesign;
  check: PlanCheck;
  /** The colleagues who were asked to look at it, and how many remarks are open. */
  looks: LookState[];
  remarks: number;
  /** What the fixed lines hold, by question id. */
  fixed: Record<string, { name: string; type: QuestionType }>;
  /** What a pool can name. Exams that draw from this one are left out: a ring has no questions of its own. */
  sources: {
    categories: { id: string; name: string }[];
    exams: { id: string; title: string }[];
    objectives: { id: string; code: string; wording: string }[];
    tags: string[];
  };
};

/** An exam with its plan check over the bank of today. */
export const openExam = query({
  admits: toExam('exam.see'),
  does({ courseId, examId, context, exam: row, revision }): Result<OpenExam> {
    const { design } = revision;
    const { categoryNames, check } = checkedPlan(context.db, { courseId, examId, design, now: context.now });
    const fixedIds = revision.design.parts.flatMap((part) =>
      part.lines.flatMap((line) => (line.kind === 'fixed' ? [line.questionId] : [])),
    );
    return ok({
      id: row.id,
      title: row.title,
      revision: revision.number,
      edit: revision.edit,
      labels: { year: row.year, subject: row.subject, level: row.level },
      frozen: revision.frozenAt !== null,
      behind: sittingsBehind(context.db, examId, revision.id),
      design: design.offScreen ? { ...design, parts: design.parts.map((part) => ({ ...part, lines: [] })) } : design,
      check,
      looks: looksAt(context.db, examId, design),
      remarks: openRemarks(context.db, examId),
      fixed: design.offScreen ? {} : questionNames(context.db, fixedIds),
      sources: {
        categories: [...categoryNames].map(([id, name]) => ({ id, name })),
        ...sourcesOf(context.db, courseId, examId),
      },
    });
  },
});

/** What pools can name besides categories. */
function sourcesOf(db: Db, courseId: string, examId: string): Omit<OpenExam['sources'], 'categories'> {
  const exams = examsOf(db, courseId);
  const archived = new Set(
    db
      .select({ id: exam.id })
      .from(exam)
      .where(and(eq(exam.courseId, courseId), isNotNull(exam.archivedAt)))
      .all()
      .map((row) => row.id),
  );
  const drawsFromThis = (id: string) => wayBetween(id, examId, exams.designs) !== null;
  const inBanks = inArray(
    question.bankId,
    db.select({ id: courseBank.bankId }).from(courseBank).where(eq(courseBank.courseId, courseId)),
  );
  return {
    exams: [...exams.titles]
      .filter(([id]) => id !== examId && !archived.has(id) && !exams.designs.get(id)?.offScreen && !drawsFromThis(id))
      .map(([id, title]) => ({ id, title }))
      .sort((a, b) => a.title.localeCompare(b.title)),
    objectives: objectivesInCourse(db, courseId),
    tags: db
      .selectDistinct({ tag: questionTag.tag })
      .from(questionTag)
      .innerJoin(question, eq(question.id, questionTag.questionId))
      .where(inBanks)
      .orderBy(questionTag.tag)
      .all()
      .map((row) => row.tag),
  };
}

/** How many scheduled sittings keep an earlier revision than the newest. */
export const sittingsBehind = (db: Db | Tx, examId: string, revisionId: string): number =>
  db
    .select({ id: sitting.id })
    .from(sitting)
    .where(and(eq(sitting.examId, examId), eq(sitting.state, 'scheduled'), ne(sitting.revisionId, revisionId)))
    .all().length;

/** What questions are called in lists, by id. */
export function questionNames(db: Db, ids: string[]): Record<string, { name: string; type: QuestionType }> {
  if (ids.length === 0) return {};
  const rows = db
    .select({ id: question.id, shortName: question.shortName, type: question.type, content: questionVersion.content })
    .from(question)
    .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
    .where(inArray(question.id, ids))
    .all();
  return Object.fromEntries(
    rows.map((row) => [row.id, { name: row.shortName || stemLine(row.content), type: row.type }]),
  );
}

const saveInput = z.object({ title: titleInput, design: examDesign, edit: z.number().int() });

/**
 * Saves the design. A revision that no sitting has pinned is changed in place; a pinned one stays, and the edit makes
 * the next. Fixed lines must name questions of the course's banks.
 */
export const saveExam = command({
  admits: toExam('exam.change'),
  takes: [saveInput],
  logs: 'exam.save',
  does(
    { tx, courseId, examId, exam: row, revision, record, context },
    input,
  ): Result<Pick<OpenExam, 'edit' | 'revision' | 'behind' | 'check' | 'fixed' | 'looks'>> {
    const { title, edit } = input;
    const lineIds = input.design.parts.flatMap((part) => [part.id, ...part.lines.map((line) => line.id)]);
    if (new Set(lineIds).size < lineIds.length)
      return refused('bad-input', 'Two parts or lines carry the same id.', 'design');
    if (edit !== revision.edit)
      return refused('conflict', 'Someone else has changed this exam since you opened it. Open it anew to see both.');
    // The items of an off-screen exam are changed by a use-case of their own; a page may leave them out.
    const design = revision.design.offScreen ? { ...input.design, parts: revision.design.parts } : input.design;
    if (Boolean(design.offScreen) !== Boolean(revision.design.offScreen))
      return refused('bad-input', 'Whether an exam stands on paper or on the screen is decided when it is begun.');
    const document = design.offScreen?.document;
    if (document && !hasDocument(tx, examId, document.hash)) return notFound('document');
    const { snapshot, check } = checkedPlan(tx, { courseId, examId, design, now: context.now });
    const known = new Set(snapshot.entries.map((entry) => entry.questionId));
    const before = new Set(
      revision.design.parts.flatMap((part) =>
        part.lines.flatMap((line) => (line.kind === 'fixed' ? [line.questionId] : [])),
      ),
    );
    const fixedIds = design.parts.flatMap((part) =>
      part.lines.flatMap((line) => (line.kind === 'fixed' ? [line.questionId] : [])),
    );
    if (fixedIds.some((id) => !known.has(id) && !before.has(id))) return notFound('question');
    const exams = examsDrawnFrom(design).size ? examsOf(tx, courseId) : null;
    const ring = exams && wayBetween(examId, examId, exams.designs.set(examId, design));
    if (ring)
      return refused(
        'bad-input',
        `This exam would draw from itself: ${ring.map((id) => (id === examId ? title : exams.titles.get(id))).join(' → ')}.`,
        'design',
      );
    const stored = storeDesign(tx, context, { exam: row, revision }, { design, edit });
    tx.update(exam).set({ title }).where(eq(exam.id, examId)).run();
    record({ subjectId: examId, detail: { revision: stored.revision } });
    const taken = takenOut(revision.design, design);
    if (taken) recordTakenOut(tx, context, { courseId, examId, taken });
    return ok({
      edit: stored.edit,
      revision: stored.revision,
      behind: sittingsBehind(tx, examId, stored.revisionId),
      check,
      fixed: design.offScreen ? {} : questionNames(context.db, fixedIds),
      looks: looksAt(tx, examId, design),
    });
  },
});

/** How many questions (or passages) a draw that is still being typed would find, beside what the exam holds already. */
export const countPool = query({
  admits: toExam('exam.change'),
  takes: [drawnLine],
  does({ courseId, examId, revision, context }, line): Result<{ holds: number }> {
    const { design } = revision;
    const [part] = design.parts;
    const asked = part ? { ...design, parts: [{ ...part, lines: [...part.lines, line] }] } : design;
    const { snapshot } = courseSnapshot(context.db, courseId, { design: asked, examId, now: context.now });
    return ok({ holds: poolSizeBeside(design, line, snapshot) });
  },
});

export type Choosable = { id: string; name: string; type: QuestionType; category: string };

/** Questions of the course's banks for choosing a fixed line, by name. */
export const choosableQuestions = query({
  admits: toCourse('exam.change'),
  does({ courseId, context }): Result<Choosable[]> {
    const names = categoryNamesInCourse(context.db, courseId);
    const rows = context.db
      .select({
        id: question.id,
        shortName: question.shortName,
        type: question.type,
        categoryId: question.categoryId,
        text: sql<string>`substr(${questionVersion.plainText}, 1, 300)`,
      })
      .from(question)
      .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
      .innerJoin(courseBank, eq(courseBank.bankId, question.bankId))
      .where(and(eq(courseBank.courseId, courseId), isNull(question.retiredAt)))
      .orderBy(asc(question.createdAt))
      .all();
    return ok(
      rows.map((row) => ({
        id: row.id,
        name: row.shortName || (row.text.split('\n')[0] ?? ''),
        type: row.type,
        category: names.get(row.categoryId) ?? '',
      })),
    );
  },
});
