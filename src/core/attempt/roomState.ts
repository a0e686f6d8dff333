import { type Duration, type Instant, second } from '../base/time';
import type { Phase } from './attemptMachine';

/** Where one student stands, as the invigilator of a room needs to know it. */
export const roomStates = [
  'lost-contact',
  'nothing-answered',
  'writing',
  'not-come',
  'handed-in',
  'not-handed-in',
  'voided',
  'excused',
] as const;
/** How a student in the room stands: exactly one of these at any moment. */
export type RoomState = (typeof roomStates)[number];

/**
 * A page gives a sign of life every 20 seconds, or once a minute where its window lies behind others (browsers slow the
 * timers of hidden pages down to that). Who has given none for longer has lost contact.
 */
export const contactLostAfter: Duration = 90 * second;

type Facts = {
  excused: boolean;
  attempt: { phase: Phase; answered: number; lastContact: Instant | null; startedAt: Instant } | null;
};

/** The state of a student at a moment. Whoever has an attempt is where that attempt is, also when they are excused since. */
export function roomState({ excused, attempt }: Facts, now: Instant): RoomState {
  if (!attempt) return excused ? 'excused' : 'not-come';
  if (attempt.phase !== 'running') return attempt.phase;
  if (now - (attempt.lastContact ?? attempt.startedAt) > contactLostAfter) return 'lost-contact';
  return attempt.answered === 0 ? 'nothing-answered' : 'writing';
}
