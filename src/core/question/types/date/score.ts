import { creditOf, type Scored } from '../../scored';
import type { DateContent } from './content';
import type { DateResponse } from './student';

/** A survey has no wrong answer: any date within the limits counts in full. */
export const scoreDate = (content: DateContent, { date }: DateResponse): Scored =>
  creditOf(
    (content.earliest === null || date >= content.earliest) && (content.latest === null || date <= content.latest)
      ? 1
      : 0,
  );

/** A date within the limits, as an example: none is more right than another. */
export const rightDate = (content: DateContent): DateResponse => ({
  date: content.earliest ?? content.latest ?? '2026-01-01',
});

/** The date as it was entered, `YYYY-MM-DD`. */
export const dateResponseText = ({ date }: DateResponse): string => date;
