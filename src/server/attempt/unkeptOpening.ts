import type { Instant } from '@/core/base/time';
import type { Opened } from './takeAttempt';
import type { TakingPaper } from './takingPaper';

/** What an exam that leaves no trace begins with besides its paper: nothing has been answered, and nobody tells it anything. */
export const unkeptOpening = (deadline: Instant | null, now: Instant): Omit<Opened, keyof TakingPaper> => ({
  epoch: 1,
  answers: [],
  standing: { kind: 'running', deadline, handInUntil: deadline, reopened: false },
  asides: [],
  timeZone: 'UTC',
  now,
  notices: [],
  place: 1,
});
