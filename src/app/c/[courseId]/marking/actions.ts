'use server';
import { adjustMark, adjustPaper } from '@/server/marking/adjust';
import { moreAnswers } from '@/server/marking/answersToMark';
import { giveMark, takeBackMarks } from '@/server/marking/giveMark';
import { markGroup } from '@/server/marking/groups';
import { takeBackUpload } from '@/server/marking/offlineUpload';
import { acceptAnswer, applyRemark, previewAccept, previewRemark, takeBackRemark } from '@/server/marking/remarking';
import { dropComment, keepComment } from '@/server/marking/savedComments';
import { giveSecondMark, moreToSecond, setSecondMarking } from '@/server/marking/secondMarking';
import { settle } from '@/server/marking/settle';
import { acting } from '../../../request';

export async function mark(courseId: string, slotId: string, input: unknown) {
  return acting((context) => giveMark(context, courseId, slotId, input));
}

export async function more(courseId: string, sittingId: string, slotIds: string[]) {
  return acting((context) => moreAnswers(context, courseId, sittingId, slotIds.map(String)));
}

export async function group(courseId: string, input: unknown) {
  return acting((context) => markGroup(context, courseId, input));
}

export async function takeBack(courseId: string, batch: string) {
  return acting((context) => takeBackMarks(context, courseId, String(batch)));
}

export async function keep(courseId: string, questionId: string, text: unknown) {
  return acting((context) => keepComment(context, courseId, questionId, text));
}

export async function drop(courseId: string, commentId: string) {
  return acting((context) => dropComment(context, courseId, String(commentId)));
}

export async function adjust(courseId: string, slotId: string, input: unknown) {
  return acting((context) => adjustMark(context, courseId, slotId, input));
}

export async function adjustWhole(courseId: string, attemptId: string, input: unknown) {
  return acting((context) => adjustPaper(context, courseId, attemptId, input));
}

export async function lookAtRemark(courseId: string, questionId: string, input: unknown) {
  return acting((context) => previewRemark(context, courseId, questionId, input));
}

export async function remark(courseId: string, questionId: string, input: unknown) {
  return acting((context) => applyRemark(context, courseId, questionId, input));
}

export async function takeBackRemarking(courseId: string, remarkId: string) {
  return acting((context) => takeBackRemark(context, courseId, String(remarkId)));
}

export async function lookAtAccepting(courseId: string, questionId: string, input: unknown) {
  return acting((context) => previewAccept(context, courseId, questionId, input));
}

export async function accept(courseId: string, questionId: string, input: unknown) {
  return acting((context) => acceptAnswer(context, courseId, questionId, input));
}

export async function secondRule(courseId: string, sittingId: string, input: unknown) {
  return acting((context) => setSecondMarking(context, courseId, sittingId, input));
}

export async function secondMark(courseId: string, slotId: string, input: unknown) {
  return acting((context) => giveSecondMark(context, courseId, slotId, input));
}

export async function moreSecond(courseId: string, sittingId: string, slotIds: string[]) {
  return acting((context) => moreToSecond(context, courseId, sittingId, slotIds.map(String)));
}

export async function settleMarks(courseId: string, slotId: string, input: unknown) {
  return acting((context) => settle(context, courseId, slotId, input));
}

export async function takeBackUploaded(courseId: string, batch: string) {
  return acting((context) => takeBackUpload(context, courseId, String(batch)));
}
