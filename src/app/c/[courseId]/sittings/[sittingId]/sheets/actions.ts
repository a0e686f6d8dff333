'use server';
import { cancelSheets, printFeedback, sampleSheet, saveLayout, sheetsState } from '@/server/gradebook/feedbackSheets';
import { acting } from '../../../../../request';

export async function keepLayout(courseId: string, layout: unknown) {
  return acting((context) => saveLayout(context, courseId, layout));
}

export async function sample(courseId: string, sittingId: string, userId: string, layout: unknown) {
  return acting((context) => sampleSheet(context, courseId, sittingId, String(userId), layout));
}

export async function printSheets(courseId: string, sittingId: string, order: unknown) {
  return acting((context) => printFeedback(context, courseId, sittingId, order));
}

export async function sheetsProgress(courseId: string, sittingId: string) {
  return acting((context) => sheetsState(context, courseId, sittingId));
}

export async function endSheets(courseId: string, sittingId: string) {
  return acting((context) => cancelSheets(context, courseId, sittingId));
}
