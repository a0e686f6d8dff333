import { notFound, ok } from '@/core/base/result';
import type { Action } from '@/core/people/policy';
import type { Door } from '../house/useCase';
import type { Admission } from '../people/permission';
import type { SittingRow } from '../records/audience';
import { type RoundRow, roundOf } from '../records/roundOf';
import { toSitting } from '../sitting/toSitting';

export type AdmittedToRound = Admission & { sittingId: string; sitting: SittingRow; held: RoundRow };

/** To a round of a course: its id is that of its sitting. */
export const toRound = (action: Action): Door<readonly ['courseId', 'roundId'], AdmittedToRound> => {
  const door = toSitting(action);
  return {
    action,
    ids: ['courseId', 'roundId'],
    open(context, courseId, roundId) {
      const found = door.open(context, courseId, roundId);
      if (!found.ok) return found;
      const held = found.value.sitting.isRound ? roundOf(context.db, roundId) : undefined;
      return held ? ok({ ...found.value, sittingId: roundId, held }) : notFound('round');
    },
  };
};
