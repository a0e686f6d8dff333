'use server';
import { createExam, saveExam } from '@/server/exam/exams';
import { createSitting } from '@/server/sitting/sittings';
import { pageContext } from '../../../request';

export async function beginExam(courseId: string, title: string) {
  return createExam(await pageContext(), courseId, { title });
}

export async function changeExam(courseId: string, examId: string, input: unknown) {
  return saveExam(await pageContext(), courseId, examId, input);
}

export async function giveExam(courseId: string, examId: string) {
  return createSitting(await pageContext(), courseId, { examId });
}
