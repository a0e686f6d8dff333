'use server';
import { readHanded } from '@/server/attempt/readHanded';
import { openTrial, openTrialQuestion, rightAnswers, scoreTrial } from '@/server/exam/trial';
import { acting } from '../../../request';

export async function open(courseId: string, examId: string, seed: string) {
  return acting((context) => openTrial(context, courseId, examId, seed));
}

export async function show(courseId: string, examId: string, seed: string, slotId: string) {
  return acting((context) => openTrialQuestion(context, courseId, examId, seed, slotId));
}

export async function right(courseId: string, examId: string, seed: string) {
  return acting((context) => rightAnswers(context, courseId, examId, seed));
}

export async function score(courseId: string, examId: string, seed: string, answers: unknown) {
  return acting((context) => scoreTrial(context, courseId, examId, seed, readHanded({ answers }).answers ?? new Map()));
}
