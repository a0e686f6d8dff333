'use server';
import { cancelPrint, printSitting, printState } from '@/server/print/classPrint';
import { publishReady, withdrawPublished } from '@/server/release/publish';
import { readReplies } from '@/server/release/replies';
import { writeToStudents } from '@/server/release/writeToStudents';
import { arrange } from '@/server/sitting/arrange';
import { giveAgain } from '@/server/sitting/copySitting';
import { keepAsUsual } from '@/server/sitting/keepAsUsual';
import { saveSitting } from '@/server/sitting/saveRules';
import { acknowledge, scheduleSitting } from '@/server/sitting/schedule';
import { acting } from '../../../request';

export async function changeSitting(courseId: string, sittingId: string, input: unknown) {
  return acting((context) => saveSitting(context, courseId, sittingId, input));
}

export async function again(courseId: string, sittingId: string, firstDay: string, whom: string) {
  return acting((context) => giveAgain(context, courseId, sittingId, String(firstDay), String(whom)));
}

const texts = (list: unknown): string[] => (Array.isArray(list) ? list.map(String).slice(0, 500) : []);

export async function schedule(courseId: string, sittingId: string, acknowledged: string[]) {
  return acting((context) => scheduleSitting(context, courseId, sittingId, texts(acknowledged)));
}

export async function acknowledgeWarning(courseId: string, sittingId: string, key: string) {
  return acting((context) => acknowledge(context, courseId, sittingId, String(key)));
}

export async function keepRules(courseId: string, sittingId: string) {
  return acting((context) => keepAsUsual(context, courseId, sittingId));
}

export async function arrangeFor(courseId: string, sittingId: string, userId: string, input: unknown) {
  return acting((context) => arrange(context, courseId, sittingId, userId, input));
}

export async function publish(courseId: string, sittingId: string, input: unknown) {
  return acting((context) => publishReady(context, courseId, sittingId, input));
}

export async function withdraw(courseId: string, sittingId: string, userIds?: unknown) {
  return acting((context) => withdrawPublished(context, courseId, sittingId, userIds));
}

export async function read(courseId: string, sittingId: string) {
  return acting((context) => readReplies(context, courseId, sittingId));
}

export async function write(courseId: string, sittingId: string, input: unknown) {
  return acting((context) => writeToStudents(context, courseId, sittingId, input));
}

export async function print(courseId: string, sittingId: string, withKey: boolean) {
  return acting((context) => printSitting(context, courseId, sittingId, withKey === true));
}

export async function printProgress(courseId: string, sittingId: string) {
  return acting((context) => printState(context, courseId, sittingId));
}

export async function endPrint(courseId: string, sittingId: string) {
  return acting((context) => cancelPrint(context, courseId, sittingId));
}
