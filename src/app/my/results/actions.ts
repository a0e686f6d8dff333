'use server';
import { replyToFeedback } from '@/server/release/replies';
import { noteSeen } from '@/server/release/resultsSeen';
import { openOnce } from '@/server/release/review';
import { reportQuestion } from '@/server/sitting/reports';
import { acting } from '../../request';

export async function reply(sittingId: string, text: string) {
  return acting((context) => replyToFeedback(context, sittingId, String(text)));
}

export async function open(sittingId: string) {
  return acting((context) => openOnce(context, sittingId));
}

export async function report(attemptId: string, slotId: string, text: string) {
  return acting((context) => reportQuestion(context, String(attemptId), String(slotId), String(text)));
}

export async function seen(sittingId: string) {
  return acting((context) => noteSeen(context, sittingId));
}
