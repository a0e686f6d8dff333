'use server';
import { giveMark } from '@/server/marking/markAnswers';
import { acting } from '../../../request';

export async function mark(courseId: string, slotId: string, input: unknown) {
  return acting((context) => giveMark(context, courseId, slotId, input));
}
