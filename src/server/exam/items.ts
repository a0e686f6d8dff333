import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { ExamDesign, FixedLine } from '@/core/exam/design';
import { changeItems, type ItemChange, itemChange } from '@/core/exam/items/changeItems';
import { type Item, itemContent } from '@/core/exam/items/item';
import type { PlanCheck } from '@/core/exam/planCheck';
import { takenOut } from '@/core/exam/takenOut';
import type { QuestionContent } from '@/core/question/content';
import type { Tx } from '@/db/client';
import { bank, category, question } from '@/db/schema';
import { beginVersions, changeContent } from '../bank/versions';
import { type Context, newId } from '../house/context';
import { command, query } from '../house/useCase';
import { checkedPlan } from './checkedPlan';
import { sittingsBehind } from './exams';
import { beginItemBank } from './itemBank';
import { storeDesign } from './storeDesign';
import { storedItems } from './storedItems';
import { recordTakenOut } from './takingOut';
import { type ExamWithRevision, toExam } from './toExam';

type ExamItems = {
  /** The items anew where some came or went; null where the browser knows them already. */
  items: Item[] | null;
  edit: number;
  revision: number;
  behind: number;
  points: number;
  check: PlanCheck;
};

/** The items of an off-screen exam. */
export const openItems = query({
  admits: toExam('exam.change'),
  does({ revision, context }): Result<Item[]> {
    if (!revision.design.offScreen) return notFound('off-screen exam');
    return ok(storedItems(context.db, revision.design).map(({ item }) => item));
  },
});

/** What can make or take out items. */
const comeAndGo = new Set<ItemChange['do']>(['set', 'insert', 'take-out']);

const input = z.object({ edit: z.number().int(), change: itemChange });

/**
 * Changes items of an off-screen exam: all of what is asked, or nothing. An item whose version stands on a paper gets its
 * next one; a new or missing item is a new revision of the exam where the present one is given in a sitting.
 */
export const changeExamItems = command({
  admits: toExam('exam.change'),
  takes: [input],
  logs: 'exam.items',
  does({ tx, courseId, examId, exam, revision, record, context }, { edit, change }): Result<ExamItems> {
    const { design } = revision;
    if (!design.offScreen) return notFound('off-screen exam');
    if (edit !== revision.edit)
      return refused('conflict', 'Someone else has changed this exam since you opened it. Open it anew to see both.');
    const before = storedItems(tx, design);
    const changed = changeItems(
      before.map(({ item }) => item),
      change,
    );
    if (!changed.ok) return changed;
    const lines = writeItems(tx, context, examId, before, changed.value);
    const stored = storeDesign(tx, context, { exam, revision }, { design: withItems(design, lines), edit });
    const { check } = checkedPlan(tx, { courseId, examId, design: stored.design, now: context.now });
    record({ subjectId: examId, detail: { do: change.do, items: lines.length } });
    const taken = takenOut(design, stored.design);
    if (taken) recordTakenOut(tx, context, { courseId, examId, taken });
    return ok({
      items: comeAndGo.has(change.do) ? storedItems(tx, stored.design).map(({ item }) => item) : null,
      edit: stored.edit,
      revision: stored.revision,
      behind: sittingsBehind(tx, examId, stored.revisionId),
      points: check.points,
      check,
    });
  },
});

const withItems = (design: ExamDesign, lines: FixedLine[]): ExamDesign => ({
  ...design,
  parts: design.parts.map((part, i) => (i === 0 ? { ...part, lines } : part)),
});

/** Writes what differs between the items before and after, and gives the lines that the exam then has. */
function writeItems(
  tx: Tx,
  context: Context,
  examId: string,
  before: ReturnType<typeof storedItems>,
  after: readonly Item[],
): FixedLine[] {
  const home = itemHome(tx, examId);
  const known = new Map(before.map((one) => [one.item.questionId, one]));
  const kept = new Set(after.map((item) => item.questionId));
  for (const { item } of before)
    if (!kept.has(item.questionId))
      tx.update(question).set({ retiredAt: context.now }).where(eq(question.id, item.questionId)).run();
  return after.map((item): FixedLine => {
    const { questionId, lineId } = writeItem(tx, context, home, item, known.get(item.questionId));
    return { kind: 'fixed', id: lineId, questionId, points: item.points };
  });
}

function itemHome(tx: Tx, examId: string): { bankId: string; categoryId: string } {
  const home = tx
    .select({ bankId: bank.id, categoryId: category.id })
    .from(bank)
    .innerJoin(category, eq(category.bankId, bank.id))
    .where(eq(bank.examId, examId))
    .get();
  if (!home) throw new Error(`The off-screen exam ${examId} has no bank for its items.`);
  return home;
}

function writeItem(
  tx: Tx,
  context: Context,
  home: { bankId: string; categoryId: string },
  item: Item,
  stored: ReturnType<typeof storedItems>[number] | undefined,
): { questionId: string; lineId: string } {
  const read = itemContent(item);
  if (!read.ok) throw new Error(`Item ${item.label}: ${read.message}`);
  const { content } = read;
  const shortName = `Item ${item.label}`;
  if (stored) {
    const { questionId } = item;
    if (JSON.stringify(stored.content) !== JSON.stringify(content)) {
      changeContent(
        tx,
        context,
        { id: questionId, currentVersionId: stored.version.id, shortName },
        stored.version,
        content,
      );
      tx.update(question)
        .set({ shortName, edit: sql`edit + 1`, updatedAt: context.now })
        .where(eq(question.id, questionId))
        .run();
    }
    return { questionId, lineId: stored.lineId };
  }
  return { questionId: insertItem(tx, context, home, shortName, content), lineId: newId() };
}

/** Stores the question behind a new item. @returns its id */
function insertItem(
  tx: Tx,
  context: Context,
  home: { bankId: string; categoryId: string },
  shortName: string,
  content: QuestionContent,
): string {
  const questionId = newId();
  const versionId = newId();
  tx.insert(question)
    .values({
      id: questionId,
      ...home,
      shortName,
      difficulty: null,
      points: null,
      type: content.type,
      currentVersionId: versionId,
      createdBy: context.actor.userId,
      createdAt: context.now,
      updatedAt: context.now,
    })
    .run();
  beginVersions(tx, context, { id: questionId, currentVersionId: versionId, shortName }, content);
  return questionId;
}

/** Adds an item of one point behind those that an off-screen exam has. */
export function addItem(
  tx: Tx,
  context: Context,
  found: ExamWithRevision,
  content: QuestionContent,
): { design: ExamDesign; revisionId: string } {
  const { design, edit } = found.revision;
  const lines = design.parts[0]?.lines.filter((line) => line.kind === 'fixed') ?? [];
  const shortName = `Item ${lines.length + 1}`;
  const questionId = insertItem(tx, context, itemHome(tx, found.exam.id), shortName, content);
  const line: FixedLine = { kind: 'fixed', id: newId(), questionId, points: 1 };
  return storeDesign(tx, context, found, { design: withItems(design, [...lines, line]), edit });
}

/**
 * Gives a copy of an off-screen exam items of its own: the same, in a bank of the copy, so that a key changed in one is not
 * changed in the other.
 */
export function copyItems(tx: Tx, context: Context, from: ExamDesign, examId: string, title: string): ExamDesign {
  beginItemBank(tx, context, examId, title);
  const items = storedItems(tx, from).map(({ item }) => ({ ...item, questionId: '' }));
  return withItems(from, writeItems(tx, context, examId, [], items));
}
