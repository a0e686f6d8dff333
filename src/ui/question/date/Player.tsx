import { isCalendarDate } from '@/core/question/types/date/calendarDate';
import type { DateResponse, DateView } from '@/core/question/types/date/student';
import { TextField } from '../../kit/Field';
import type { PlayerProps } from '../playing';

/** A field for a calendar date. */
export function DatePlayer({ view, response, onRespond, disabled }: PlayerProps<DateView, DateResponse>) {
  const date = response?.date ?? '';
  const outside =
    isCalendarDate(date) && ((view.earliest && date < view.earliest) || (view.latest && date > view.latest));
  const limits = [view.earliest && `from ${view.earliest}`, view.latest && `to ${view.latest}`]
    .filter(Boolean)
    .join(' ');
  return (
    <TextField
      label="Your answer, a date"
      className="max-w-xs"
      type="date"
      min={view.earliest ?? undefined}
      max={view.latest ?? undefined}
      disabled={disabled}
      value={date}
      onChange={(event) => onRespond(event.target.value === '' ? undefined : { date: event.target.value })}
      hint={limits ? `A date ${limits}` : undefined}
      problem={outside ? `A date ${limits} is asked for.` : null}
    />
  );
}
