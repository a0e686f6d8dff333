'use server';
import { publishReady, withdrawPublished } from '@/server/release/publish';
import { arrange, saveSitting, scheduleSitting } from '@/server/sitting/sittings';
import { pageContext } from '../../../request';

export async function changeSitting(courseId: string, sittingId: string, input: unknown) {
  return saveSitting(await pageContext(), courseId, sittingId, input);
}

export async function schedule(courseId: string, sittingId: string) {
  return scheduleSitting(await pageContext(), courseId, sittingId);
}

export async function arrangeFor(courseId: string, sittingId: string, userId: string, input: unknown) {
  return arrange(await pageContext(), courseId, sittingId, userId, input);
}

export async function publish(courseId: string, sittingId: string, expected: number) {
  return publishReady(await pageContext(), courseId, sittingId, Number(expected));
}

export async function withdraw(courseId: string, sittingId: string) {
  return withdrawPublished(await pageContext(), courseId, sittingId);
}
