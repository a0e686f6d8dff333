'use server';
import { createCategory, deleteCategory, moveCategory, renameCategory } from '@/server/bank/categories';
import { createQuestion, retireQuestion, saveQuestion } from '@/server/bank/questions';
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
