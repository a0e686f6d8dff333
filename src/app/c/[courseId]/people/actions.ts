'use server';
import { undoChange } from '@/server/house/undo';
import { addPerson, addRoster, changePerson, previewRoster, removePerson } from '@/server/people/roster';
import { acting } from '../../../request';

export async function addOne(courseId: string, input: unknown) {
  return acting((context) => addPerson(context, courseId, input));
}

export async function previewList(courseId: string, text: string) {
  return acting((context) => previewRoster(context, courseId, String(text)));
}

export async function addList(courseId: string, text: string) {
  return acting((context) => addRoster(context, courseId, String(text)));
}

export async function changeOne(courseId: string, membershipId: string, input: unknown) {
  return acting((context) => changePerson(context, courseId, membershipId, input));
}

export async function removeOne(courseId: string, membershipId: string) {
  return acting((context) => removePerson(context, courseId, membershipId));
}

export async function undo(courseId: string, auditId: number) {
  return acting((context) => undoChange(context, courseId, Number(auditId)));
}
