import type { Instant } from '@/core/base/time';
import { attemptDeadline } from '@/core/sitting/clock';
import { type RunningAttempt, rulesOf } from '../records/audience';

/** The deadline of an attempt as it stands now. */
export const deadlineOf = (one: RunningAttempt): Instant | null =>
  attemptDeadline(rulesOf(one.sitting), one.arrangement, one.attempt.startedAt, one.attempt.added);
