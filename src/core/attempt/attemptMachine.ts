import { type Duration, type Instant, minute } from '../base/time';
import { saveAllowance } from '../sitting/saveAllowance';
import { type SaveStamp, saveOrder } from './saveOrder';

/** Where an attempt stands. One whose grace passed without a hand-in is kept and does not count. */
export const phases = ['running', 'handed-in', 'not-handed-in', 'voided'] as const;
/** Where an attempt stands: in exactly one of these at any moment. */
export type Phase = (typeof phases)[number];

/** What can be done with an attempt, or happens to it. */
export const actions = [
  'open',
  'save',
  'check',
  'hand-in',
  'hand-in-for',
  'run-out',
  'run-out-of-grace',
  'add-time',
  'reopen',
  'void',
  'restore',
] as const;
/**
 * One of the things that can be done with an attempt, or happen to it; which may in which phase, the machine says.
 */
export type Action = (typeof actions)[number];

type Target = Phase | 'the phase before';

/**
 * What each action makes of an attempt in each phase; what is not listed is refused. A hand-in of what is handed in already
 * changes nothing and is answered like the first.
 */
const table: Record<Phase, Partial<Record<Action, Target>>> = {
  running: {
    open: 'running',
    save: 'running',
    check: 'running',
    'hand-in': 'handed-in',
    'hand-in-for': 'handed-in',
    'run-out': 'handed-in',
    'run-out-of-grace': 'not-handed-in',
    'add-time': 'running',
    void: 'voided',
  },
  'handed-in': { 'hand-in': 'handed-in', reopen: 'running', void: 'voided' },
  'not-handed-in': { 'hand-in-for': 'handed-in', reopen: 'running', void: 'voided' },
  voided: { restore: 'the phase before' },
};

/**
 * The phase after an action.
 *
 * @param before the phase a voided attempt was in
 * @returns null where the action is refused
 */
export function phaseAfter(phase: Phase, action: Action, before: Phase | null = null): Phase | null {
  const target = table[phase][action];
  if (target === undefined) return null;
  return target === 'the phase before' ? before : target;
}

/**
 * Why nothing can be entered in an attempt now; null where it can.
 *
 * @param allowance for how long after the deadline something that was on its way is still taken, in milliseconds
 */
export function whyNotWrite(
  { phase, deadline }: { phase: Phase; deadline: Instant | null },
  now: Instant,
  allowance = 0,
): 'ended' | 'time-over' | null {
  if (phaseAfter(phase, 'save') === null) return 'ended';
  return deadline !== null && now > deadline + allowance ? 'time-over' : null;
}

/** What becomes of a save: stored; answered as saved, since it or a later one is stored already; or kept aside. */
type SaveFate = 'store' | 'answered' | 'late' | 'superseded';

/**
 * Decides a save. A repeat of what is stored is answered as saved even after the end, so that a browser that missed the
 * answer is not told that its answer came too late.
 *
 * @param epoch the writer epoch of the attempt
 * @param stored the stamp of the slot's stored response, null when it has none
 */
export function saveFate(
  attempt: { phase: Phase; deadline: Instant | null; epoch: number },
  stored: SaveStamp | null,
  save: SaveStamp,
  now: Instant,
): SaveFate {
  const order = saveOrder(save, attempt.epoch, stored);
  if (order === 'repeat' || order === 'older') return 'answered';
  if (whyNotWrite(attempt, now, saveAllowance)) return 'late';
  return order === 'superseded' ? 'superseded' : 'store';
}

/**
 * The minutes an attempt has been given once it is opened again: what it was closed for is given back, and so many more.
 *
 * @param given further time, in milliseconds
 */
export const addedOnReopening = (added: Duration, endedAt: Instant, given: Duration, now: Instant): Duration =>
  added + Math.max(0, now - endedAt) + given;

/**
 * When an answer was given, as its browser says: believed only where it can be so, neither before its attempt began nor
 * after it arrived (clocks differ by a minute). The moment at which the server received it leads in any case.
 *
 * @returns null where it cannot be so
 */
export const plausiblyGiven = (said: Instant | null, startedAt: Instant, receivedAt: Instant): Instant | null =>
  said !== null && said >= startedAt && said <= receivedAt + minute ? Math.min(said, receivedAt) : null;
