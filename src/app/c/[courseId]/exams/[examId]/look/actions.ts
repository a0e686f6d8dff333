'use server';
import { askForLook, remark, settleRemark, signOff, withdrawLook } from '@/server/exam/looks';
import { acting } from '../../../../../request';

export async function ask(courseId: string, examId: string, input: unknown) {
  return acting((context) => askForLook(context, courseId, examId, input));
}

export async function withdraw(courseId: string, examId: string, lookId: string) {
  return acting((context) => withdrawLook(context, courseId, examId, lookId));
}

export async function putRemark(courseId: string, examId: string, input: unknown) {
  return acting((context) => remark(context, courseId, examId, input));
}

export async function settle(courseId: string, examId: string, remarkId: string, settled: boolean) {
  return acting((context) => settleRemark(context, courseId, examId, remarkId, settled === true));
}

export async function sign(courseId: string, examId: string, signed: boolean) {
  return acting((context) => signOff(context, courseId, examId, signed === true));
}
