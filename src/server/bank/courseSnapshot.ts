import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { type CategoryRow, categoryPathNames, categoryPaths } from '@/core/bank/categoryTree';
import { day, type Instant } from '@/core/base/time';
import { type ExamDesign, examsDrawnFrom, linesOf } from '@/core/exam/design';
import { withExamPools } from '@/core/exam/examPools';
import { expectedMinutes } from '@/core/exam/expectedMinutes';
import { expectedCredit, type PoolEntry, type PoolSnapshot, snapshotOf } from '@/core/exam/snapshot';
import type { Db, Tx } from '@/db/client';
import {
  bank,
  category,
  courseBank,
  exam,
  examRevision,
  question,
  questionObjective,
  questionTag,
  questionVersion,
} from '@/db/schema';

import { keptWhile } from '../house/keptWhile';
import { stateStamp } from '../records/stateStamp';
import { observed } from './observed';

export type CourseQuestions = {
  snapshot: PoolSnapshot;
  /** The titles of the course's exams, by id; empty unless the design draws from exams. */
  examTitles: Map<string, string>;
  /** Every category of the course's banks with those above it, by id. */
  categoryNames: Map<string, string>;
};

type Asked = {
  /** The design to be drawn: what it asks of the questions besides themselves is looked up. */
  design?: ExamDesign;
  /** The exam it belongs to: an off-screen one brings items of its own. */
  examId?: string;
  now: Instant;
  /** Also those taken out of use. */
  withRetired?: boolean;
};

/** All questions of the banks a course uses, as drawing sees them now. */
export function courseSnapshot(
  db: Db | Tx,
  courseId: string,
  { design, examId, now, withRetired = false }: Asked,
): CourseQuestions {
  const bankIds = design?.offScreen
    ? itemBankOf(db, courseId, examId ?? '')
    : db
        .select({ id: courseBank.bankId })
        .from(courseBank)
        .where(eq(courseBank.courseId, courseId))
        .all()
        .map((row) => row.id);
  if (bankIds.length === 0) return { snapshot: snapshotOf([]), categoryNames: new Map(), examTitles: new Map() };
  const asked = design ? examsDrawnFrom(design) : new Set<string>();
  const exams = asked.size ? examsOf(db, courseId) : { titles: new Map(), designs: new Map<string, ExamDesign>() };
  const rests = [...(design ? [design] : []), ...exams.designs.values()].some(restsQuestions);
  const facts = keptFacts(db, [bankIds.join(), withRetired, rests].join('/'), stateStamp, () =>
    factsOf(db, bankIds, { withRetired, usage: rests }),
  );
  // Named one by one: thousands of copied objects of one shape are gone through many times faster than spread ones.
  const entries = facts.rows.map(
    (row): PoolEntry => ({
      questionId: row.questionId,
      versionId: row.versionId,
      type: row.type,
      categoryPath: row.categoryPath,
      difficulty: row.difficulty,
      objectives: row.objectives,
      tags: row.tags,
      exams: [],
      daysSinceUse: row.lastUsed === null ? null : Math.max(0, Math.floor((now - row.lastUsed) / day)),
      passageId: row.passageId,
      success: row.success,
      expected: row.expected,
      minutes: row.minutes,
      timed: row.timed,
    }),
  );
  return {
    snapshot: snapshotOf(withExamPools(entries, exams.designs, asked)),
    categoryNames: facts.categoryNames,
    examTitles: exams.titles,
  };
}

type Facts = {
  /** Of each question what drawing needs to know, but for what depends on the exam and on the moment. */
  rows: (Omit<PoolEntry, 'exams' | 'daysSinceUse'> & { lastUsed: Instant | null })[];
  categoryNames: Map<string, string>;
};

const keptFacts = keptWhile<Facts>();

/** What is known of the questions of some banks, whichever exam asks. */
function factsOf(
  db: Db | Tx,
  bankIds: readonly string[],
  { withRetired, usage }: { withRetired: boolean; usage: boolean },
): Facts {
  const inBanks = inArray(question.bankId, [...bankIds]);
  const categories = db
    .select()
    .from(category)
    .where(inArray(category.bankId, [...bankIds]))
    .all();
  const paths = categoryPaths(categories);
  const objectives = byQuestion(
    db
      .select({ questionId: questionObjective.questionId, label: questionObjective.objectiveId })
      .from(questionObjective)
      .innerJoin(question, eq(question.id, questionObjective.questionId))
      .where(inBanks)
      .all(),
  );
  const tags = byQuestion(
    db
      .select({ questionId: questionTag.questionId, label: questionTag.tag })
      .from(questionTag)
      .innerJoin(question, eq(question.id, questionTag.questionId))
      .where(inBanks)
      .all(),
  );
  const rows = db
    .select({
      id: question.id,
      currentVersionId: question.currentVersionId,
      type: question.type,
      categoryId: question.categoryId,
      difficulty: question.difficulty,
      passageId: question.passageId,
      // Counted where the texts are: bringing thousands of them over only to count their words is slow.
      words: sql<number>`length(${questionVersion.plainText}) - length(replace(${questionVersion.plainText}, ' ', '')) + 1`,
    })
    .from(question)
    .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
    .where(and(inBanks, withRetired ? undefined : isNull(question.retiredAt)))
    .all();
  const seen = observed(
    db,
    rows.map((row) => row.id),
    { usage },
  );
  return {
    categoryNames: namesInBanks(db, bankIds, categories),
    rows: rows.map((row) => {
      const { success = null, lastUsed = null, time = null } = seen.get(row.id) ?? {};
      return {
        questionId: row.id,
        versionId: row.currentVersionId,
        type: row.type,
        categoryPath: paths.get(row.categoryId) ?? [row.categoryId],
        difficulty: row.difficulty,
        objectives: objectives.get(row.id) ?? [],
        tags: tags.get(row.id) ?? [],
        lastUsed,
        passageId: row.passageId,
        success,
        expected: expectedCredit(row.difficulty, success),
        minutes: expectedMinutes(row.type, row.words, time),
        timed: time?.n ?? 0,
      };
    }),
  };
}

/** Whether any draw of a design rests questions: only then does it matter when each stood on a paper last. */
const restsQuestions = (design: ExamDesign): boolean =>
  linesOf(design).some(({ line }) => line.kind !== 'fixed' && Boolean(line.pool.restDays));

/** The names of every category of the banks a course uses, with those above it, by id. */
export function categoryNamesInCourse(db: Db | Tx, courseId: string): Map<string, string> {
  const banks = db.select({ id: courseBank.bankId }).from(courseBank).where(eq(courseBank.courseId, courseId)).all();
  const bankIds = banks.map((row) => row.id);
  return namesInBanks(db, bankIds, db.select().from(category).where(inArray(category.bankId, bankIds)).all());
}

/** Where a course uses several banks, the name of its bank stands behind that of each category: "Heights (Navigation)". */
function namesInBanks(
  db: Db | Tx,
  bankIds: readonly string[],
  categories: readonly (CategoryRow & { bankId: string })[],
): Map<string, string> {
  if (bankIds.length < 2) return categoryPathNames(categories);
  const banks = db
    .select({ id: bank.id, name: bank.name })
    .from(bank)
    .where(inArray(bank.id, [...bankIds]))
    .orderBy(asc(bank.name))
    .all();
  return new Map(
    banks.flatMap(({ id, name }) =>
      [...categoryPathNames(categories.filter((one) => one.bankId === id))].map(
        ([categoryId, path]): [string, string] => [categoryId, `${path} (${name})`],
      ),
    ),
  );
}

/** The bank that holds the items of an off-screen exam of the course: all that such an exam is made of. */
const itemBankOf = (db: Db | Tx, courseId: string, examId: string): string[] =>
  db
    .select({ id: bank.id })
    .from(bank)
    .innerJoin(exam, eq(exam.id, bank.examId))
    .where(and(eq(exam.id, examId), eq(exam.courseId, courseId)))
    .all()
    .map((row) => row.id);

function byQuestion(rows: { questionId: string; label: string }[]): Map<string, string[]> {
  const labels = new Map<string, string[]>();
  for (const { questionId, label } of rows) {
    const own = labels.get(questionId);
    if (own) own.push(label);
    else labels.set(questionId, [label]);
  }
  return labels;
}

/** The titles and current designs of a course's exams, by id. */
export function examsOf(
  db: Db | Tx,
  courseId: string,
): { titles: Map<string, string>; designs: Map<string, ExamDesign> } {
  const rows = db
    .select({ id: exam.id, title: exam.title, design: examRevision.design })
    .from(exam)
    .innerJoin(examRevision, eq(examRevision.id, exam.currentRevisionId))
    .where(eq(exam.courseId, courseId))
    .all();
  return {
    titles: new Map(rows.map((row) => [row.id, row.title])),
    designs: new Map(rows.map((row) => [row.id, row.design])),
  };
}
