'use server';
import { createExam, saveExam } from '@/server/exam/exams';
import { createSitting } from '@/server/sitting/sittings';
import { acting } from '../../../request';

export async function beginExam(courseId: string, title: string) {
  return acting((context) => createExam(context, courseId, { title }));
}

export async function changeExam(courseId: string, examId: string, input: unknown) {
  return acting((context) => saveExam(context, courseId, examId, input));
}

export async function giveExam(courseId: string, examId: string) {
  return acting((context) => createSitting(context, courseId, { examId }));
}
