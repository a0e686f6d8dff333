'use server';
import { decideAside, seeAside } from '@/server/attempt/aside';
import {
  addNote,
  addTime,
  handInFor,
  letThrough,
  reopen,
  restoreAttempt,
  voidAttempt,
} from '@/server/sitting/invigilate';
import { acting } from '../../../../../request';

type Where = { courseId: string; sittingId: string };

export async function giveTime({ courseId, sittingId }: Where, attemptIds: string[] | null, minutes: number) {
  const ids = attemptIds === null ? null : attemptIds.map(String).slice(0, 1_000);
  return acting((context) => addTime(context, courseId, sittingId, ids, Number(minutes)));
}

export async function handInOf({ courseId, sittingId }: Where, attemptId: string) {
  return acting((context) => handInFor(context, courseId, sittingId, String(attemptId)));
}

export async function openAgain({ courseId, sittingId }: Where, attemptId: string, minutes: number, reason: string) {
  const input = { minutes: Number(minutes), reason: String(reason) };
  return acting((context) => reopen(context, courseId, sittingId, String(attemptId), input));
}

export async function voidOne({ courseId, sittingId }: Where, attemptId: string, reason: string) {
  return acting((context) => voidAttempt(context, courseId, sittingId, String(attemptId), String(reason)));
}

export async function restoreOne({ courseId, sittingId }: Where, attemptId: string) {
  return acting((context) => restoreAttempt(context, courseId, sittingId, String(attemptId)));
}

export async function letOneThrough({ courseId, sittingId }: Where, userId: string) {
  return acting((context) => letThrough(context, courseId, sittingId, String(userId)));
}

export async function note(
  { courseId, sittingId }: Where,
  kind: 'incident' | 'message',
  userId: string | null,
  text: string,
) {
  const input = {
    kind: kind === 'message' ? ('message' as const) : ('incident' as const),
    userId: userId === null ? null : String(userId),
    text: String(text),
  };
  return acting((context) => addNote(context, courseId, sittingId, input));
}

export async function asideOf({ courseId, sittingId }: Where, userId: string) {
  return acting((context) => seeAside(context, courseId, sittingId, String(userId)));
}

export async function decide(
  { courseId, sittingId }: Where,
  key: { slotId: string; epoch: number; sequence: number },
  take: boolean,
) {
  return acting((context) => decideAside(context, courseId, sittingId, key, take === true));
}
