import type { Rich } from '../../../base/rich';
import { asFields } from '../../readJson';
import { isCalendarDate } from './calendarDate';
import type { DateContent } from './content';

/** A date question as a student sees it. */
export type DateView = { type: 'date'; stem: Rich; earliest: string | null; latest: string | null };

/** A calendar date as `YYYY-MM-DD`. */
export type DateResponse = { date: string };

/** Builds the student's view from nothing. */
export const viewDate = ({ stem, earliest, latest }: DateContent): DateView => ({
  type: 'date',
  stem,
  earliest,
  latest,
});

/** Reads any JSON: null unless it is a date of the calendar, undefined where nothing was entered. */
export function readDateResponse(input: unknown): DateResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const date = asFields(input)?.date;
  if (typeof date !== 'string') return null;
  if (date === '') return undefined;
  return isCalendarDate(date) ? { date } : null;
}
