import type { Rich } from '../../../base/rich';
import { asFields } from '../../readJson';
import { isCalendarDate } from './calendarDate';
import type { DateContent } from './content';

export type DateView = { type: 'date'; stem: Rich; earliest: string | null; latest: string | null };

/** A calendar date as `YYYY-MM-DD`. */
export type DateResponse = { date: string };

export const viewDate = ({ stem, earliest, latest }: DateContent): DateView => ({
  type: 'date',
  stem,
  earliest,
  latest,
});

export function readDateResponse(input: unknown): DateResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const date = asFields(input)?.date;
  if (typeof date !== 'string') return null;
  if (date === '') return undefined;
  return isCalendarDate(date) ? { date } : null;
}
