'use server';
import { giveMark } from '@/server/marking/markAnswers';
import { pageContext } from '../../../request';

export async function mark(courseId: string, slotId: string, input: unknown) {
  return giveMark(await pageContext(), courseId, slotId, input);
}
