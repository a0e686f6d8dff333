'use server';
import { addColumn, moveColumn, removeColumn, saveNumbers, saveSittingBands } from '@/server/gradebook/bookSettings';
import { cellHistory, enterCell } from '@/server/gradebook/entries';
import { explained } from '@/server/gradebook/gradebook';
import { takeBackGrades } from '@/server/gradebook/gradeSheets';
import { tryNumbers } from '@/server/gradebook/tryNumbers';
import { acting } from '../../../request';

export async function history(courseId: string, columnId: string, userId: string) {
  return acting((context) => cellHistory(context, courseId, String(columnId), String(userId)));
}

export async function enter(courseId: string, columnId: string, userId: string, input: unknown) {
  return acting((context) => enterCell(context, courseId, String(columnId), String(userId), input));
}

export async function explain(courseId: string, userId: string) {
  return acting((context) => explained(context, courseId, String(userId)));
}

export async function setNumbers(courseId: string, input: unknown) {
  return acting((context) => saveNumbers(context, courseId, input));
}

export async function newColumn(courseId: string, input: { title: string; worth: number }) {
  return acting((context) => addColumn(context, courseId, input));
}

export async function takeColumn(courseId: string, columnId: string, removed: boolean) {
  return acting((context) => removeColumn(context, courseId, String(columnId), removed === true));
}

export async function placeColumn(courseId: string, columnId: string, to: number) {
  return acting((context) => moveColumn(context, courseId, String(columnId), Number(to)));
}

export async function tryOther(courseId: string, input: unknown) {
  return acting((context) => tryNumbers(context, courseId, input));
}

export async function setSittingBands(courseId: string, sittingId: string, input: unknown) {
  return acting((context) => saveSittingBands(context, courseId, String(sittingId), input));
}

export async function takeBack(courseId: string, batch: string) {
  return acting((context) => takeBackGrades(context, courseId, String(batch)));
}
