'use server';
import { undoChange } from '@/server/house/undo';
import { addPerson, addRoster, changePerson, previewRoster, removePerson } from '@/server/people/roster';
import { pageContext } from '../../../request';

export async function addOne(courseId: string, input: unknown) {
  return addPerson(await pageContext(), courseId, input);
}

export async function previewList(courseId: string, text: string) {
  return previewRoster(await pageContext(), courseId, String(text));
}

export async function addList(courseId: string, text: string) {
  return addRoster(await pageContext(), courseId, String(text));
}

export async function changeOne(courseId: string, membershipId: string, input: unknown) {
  return changePerson(await pageContext(), courseId, membershipId, input);
}

export async function removeOne(courseId: string, membershipId: string) {
  return removePerson(await pageContext(), courseId, membershipId);
}

export async function undo(courseId: string, auditId: number) {
  return undoChange(await pageContext(), courseId, Number(auditId));
}
