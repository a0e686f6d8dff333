import { type Duration, type Instant, second } from '../base/time';

/** A save that was on its way when time ran out is still taken for so long. */
export const saveAllowance: Duration = 3 * second;

/** Whether a save that arrives now is in time: until the deadline and the allowance, inclusive. */
export const inTimeToSave = (deadline: Instant | null, now: Instant): boolean =>
  deadline === null || now <= deadline + saveAllowance;
