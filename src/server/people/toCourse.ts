import type { Action } from '@/core/people/policy';
import type { Door } from '../house/useCase';
import { type Admission, admit } from './permission';

/** To a course, for one action of the policy. */
export const toCourse = (action: Action): Door<readonly ['courseId'], Admission> => ({
  ids: ['courseId'],
  action,
  open: (context, courseId) => admit(context, courseId, action),
});
