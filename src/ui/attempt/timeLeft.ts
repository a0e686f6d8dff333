import { counted } from '@/core/base/words';
/** Time left as a clock shows it. @example timeLeft(125_000) // '2:05' */
export function timeLeft(milliseconds: number): string {
  const total = Math.max(0, Math.ceil(milliseconds / 1000));
  const hours = Math.floor(total / 3600);
  const minutes = Math.floor((total % 3600) / 60);
  const seconds = String(total % 60).padStart(2, '0');
  return hours ? `${hours}:${String(minutes).padStart(2, '0')}:${seconds}` : `${minutes}:${seconds}`;
}

/** The minutes at which the time left is spoken. */
const spokenAt = [10, 5, 1];

/** What is to be spoken when the time left passes from one value to another; null for nothing. */
export function spokenTime(before: number, after: number): string | null {
  const passed = spokenAt.find((minutes) => before > minutes * 60_000 && after <= minutes * 60_000);
  return passed === undefined ? null : `${counted(passed, 'minute')} left`;
}
