'use server';
import { type QuestionFilter, questionFilterSchema } from '@/core/bank/questionFilter';
import { parse } from '@/core/base/parse';
import {
  createCategory,
  deleteCategory,
  emptyCategoryInto,
  moveCategory,
  renameCategory,
} from '@/server/bank/categories';
import { copyQuestions } from '@/server/bank/copyQuestions';
import { giveUpDraft as giveUp, keepDraft as keep } from '@/server/bank/drafts';
import { editMany as edit } from '@/server/bank/editMany';
import { createObjective } from '@/server/bank/objectives';
import { savePassage as keepPassage } from '@/server/bank/passages';
import { setUsualPoints } from '@/server/bank/points';
import { listQuestions } from '@/server/bank/questionList';
import { createQuestion, openQuestion, retireQuestion, saveQuestion } from '@/server/bank/questions';
import { dropFilter as drop, saveFilter as save } from '@/server/bank/savedFilters';
import { bringIn as bring, previewText as preview } from '@/server/bringIn/bringIn';
import { undoChange } from '@/server/house/undo';
import { acting } from '../../../request';

export async function addCategory(courseId: string, bankId: string, name: string, parentId: string | null) {
  return acting((context) => createCategory(context, courseId, bankId, { name, parentId }));
}

export async function nameCategory(courseId: string, bankId: string, categoryId: string, name: string) {
  return acting((context) => renameCategory(context, courseId, bankId, categoryId, name));
}

export async function putCategory(
  courseId: string,
  bankId: string,
  categoryId: string,
  target: { parentId: string | null; place: number },
) {
  return acting((context) =>
    moveCategory(context, courseId, bankId, categoryId, {
      parentId: target.parentId,
      place: Math.trunc(Number(target.place)) || 0,
    }),
  );
}

export async function dropCategory(courseId: string, bankId: string, categoryId: string) {
  return acting((context) => deleteCategory(context, courseId, bankId, categoryId));
}

export async function addQuestion(courseId: string, bankId: string, input: unknown) {
  return acting((context) => createQuestion(context, courseId, bankId, input));
}

export async function changeQuestion(courseId: string, bankId: string, questionId: string, input: unknown) {
  return acting((context) => saveQuestion(context, courseId, bankId, questionId, input));
}

export async function retire(courseId: string, bankId: string, questionId: string) {
  return acting((context) => retireQuestion(context, courseId, bankId, questionId));
}

export async function undo(courseId: string, auditId: number) {
  return acting((context) => undoChange(context, courseId, Number(auditId)));
}

export async function emptyCategory(courseId: string, bankId: string, categoryId: string, targetId: string) {
  return acting((context) => emptyCategoryInto(context, courseId, bankId, categoryId, targetId));
}

export async function more(courseId: string, bankId: string, filter: QuestionFilter, from: number) {
  return acting((context) => {
    const parsed = parse(questionFilterSchema, filter);
    return parsed.ok ? listQuestions(context, courseId, bankId, parsed.value, Number(from) || 0) : parsed;
  });
}

export async function editMany(courseId: string, bankId: string, input: unknown) {
  return acting((context) => edit(context, courseId, bankId, input));
}

export async function copyTo(courseId: string, bankId: string, selection: unknown, toBankId: string) {
  return acting((context) => copyQuestions(context, courseId, bankId, selection, String(toBankId)));
}

export async function keepDraft(courseId: string, bankId: string, input: unknown) {
  return acting((context) => keep(context, courseId, bankId, input));
}

export async function giveUpDraft(courseId: string, bankId: string, subject: string) {
  return acting((context) => giveUp(context, courseId, bankId, String(subject)));
}

export async function saveFilter(courseId: string, bankId: string, input: unknown) {
  return acting((context) => save(context, courseId, bankId, input));
}

export async function dropFilter(courseId: string, bankId: string, filterId: string) {
  return acting((context) => drop(context, courseId, bankId, String(filterId)));
}

/** The question as it is stored now, for whoever was overtaken while writing. */
export async function current(courseId: string, bankId: string, questionId: string) {
  return acting((context) => openQuestion(context, courseId, bankId, String(questionId)));
}

export async function previewText(courseId: string, bankId: string, input: unknown) {
  return acting((context) => preview(context, courseId, bankId, input));
}

export async function bringIn(courseId: string, bankId: string, input: unknown) {
  return acting((context) => bring(context, courseId, bankId, input));
}

export async function savePassage(courseId: string, bankId: string, passageId: string | null, input: unknown) {
  return acting((context) => keepPassage(context, courseId, bankId, passageId, input));
}

export async function setPoints(courseId: string, bankId: string, points: unknown) {
  return acting((context) => setUsualPoints(context, courseId, bankId, points));
}

export async function addObjective(courseId: string, bankId: string, input: unknown) {
  return acting((context) => createObjective(context, courseId, bankId, input));
}
