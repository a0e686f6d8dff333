'use server';
import { createCategory, deleteCategory, moveCategory, renameCategory } from '@/server/bank/categories';
import { createQuestion, retireQuestion, saveQuestion } from '@/server/bank/questions';
import { undoChange } from '@/server/house/undo';
import { pageContext } from '../../../request';

export async function addCategory(courseId: string, bankId: string, name: string, parentId: string | null) {
  return createCategory(await pageContext(), courseId, bankId, { name, parentId });
}

export async function nameCategory(courseId: string, bankId: string, categoryId: string, name: string) {
  return renameCategory(await pageContext(), courseId, bankId, categoryId, name);
}

export async function putCategory(
  courseId: string,
  bankId: string,
  categoryId: string,
  target: { parentId: string | null; place: number },
) {
  return moveCategory(await pageContext(), courseId, bankId, categoryId, {
    parentId: target.parentId,
    place: Math.trunc(Number(target.place)) || 0,
  });
}

export async function dropCategory(courseId: string, bankId: string, categoryId: string) {
  return deleteCategory(await pageContext(), courseId, bankId, categoryId);
}

export async function addQuestion(courseId: string, bankId: string, input: unknown) {
  return createQuestion(await pageContext(), courseId, bankId, input);
}

export async function changeQuestion(courseId: string, bankId: string, questionId: string, input: unknown) {
  return saveQuestion(await pageContext(), courseId, bankId, questionId, input);
}

export async function retire(courseId: string, bankId: string, questionId: string) {
  return retireQuestion(await pageContext(), courseId, bankId, questionId);
}

export async function undo(courseId: string, auditId: number) {
  return undoChange(await pageContext(), courseId, Number(auditId));
}
