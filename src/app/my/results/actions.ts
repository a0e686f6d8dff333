'use server';
import { replyToFeedback } from '@/server/release/replies';
import { openOnce } from '@/server/release/review';
import { acting } from '../../request';

export async function reply(sittingId: string, text: string) {
  return acting((context) => replyToFeedback(context, sittingId, String(text)));
}

export async function open(sittingId: string) {
  return acting((context) => openOnce(context, sittingId));
}
