'use server';
import { lookThroughQuestions, writeForExam } from '@/server/exam/examQuestions';
import { choosableQuestions, createExam, saveExam } from '@/server/exam/exams';
import { changeExamItems } from '@/server/exam/items';
import { archiveExam, duplicateExam, labelExam } from '@/server/exam/keepExams';
import { takeUpRevision } from '@/server/exam/revisions';
import { createSitting } from '@/server/sitting/sittings';
import { acting } from '../../../request';

export async function beginExam(courseId: string, title: string, offScreen: boolean) {
  return acting((context) => createExam(context, courseId, { title, offScreen: offScreen === true }));
}

export async function changeItems(courseId: string, examId: string, input: unknown) {
  return acting((context) => changeExamItems(context, courseId, examId, input));
}

export async function changeExam(courseId: string, examId: string, input: unknown) {
  return acting((context) => saveExam(context, courseId, examId, input));
}

export async function choosable(courseId: string) {
  return acting((context) => choosableQuestions(context, courseId));
}

export async function lookThrough(courseId: string, examId: string) {
  return acting((context) => lookThroughQuestions(context, courseId, examId));
}

export async function writeQuestion(courseId: string, examId: string, partId: string, bankId: string, input: unknown) {
  return acting((context) => writeForExam(context, courseId, examId, { partId, bankId }, input));
}

export async function takeUp(courseId: string, sittingId: string) {
  return acting((context) => takeUpRevision(context, courseId, sittingId));
}

export async function giveExam(courseId: string, examId: string) {
  return acting((context) => createSitting(context, courseId, { examId }));
}

export async function duplicate(courseId: string, examId: string) {
  return acting((context) => duplicateExam(context, courseId, examId));
}

export async function archive(courseId: string, examId: string, archived: boolean) {
  return acting((context) => archiveExam(context, courseId, examId, archived === true));
}

export async function label(courseId: string, examId: string, input: unknown) {
  return acting((context) => labelExam(context, courseId, examId, input));
}
