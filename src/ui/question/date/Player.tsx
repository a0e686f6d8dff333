import { useEffect, useState } from 'react';
import { isCalendarDate } from '@/core/question/types/date/calendarDate';
import type { DateResponse, DateView } from '@/core/question/types/date/student';
import { SelectField, TextField } from '../../kit/Field';
import type { PlayerProps } from '../playing';
import { dateSaid, months } from './dateSaid';

type Entered = { day: string; month: string; year: string };
const nothing: Entered = { day: '', month: '', year: '' };

const enteredOf = (date: string | undefined): Entered => {
  const [year, month, day] = (date ?? '').split('-');
  return year && month && day ? { year, month: String(Number(month)), day: String(Number(day)) } : nothing;
};

/** The date that was entered; undefined where nothing is, null where it is not whole yet, or no day of the calendar. */
const dateOf = ({ day, month, year }: Entered): string | undefined | null => {
  if (day === '' && month === '' && year === '') return undefined;
  const date = `${year.padStart(4, '0')}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  return year.length === 4 && isCalendarDate(date) ? date : null;
};

/** A calendar date in three fields: day and year by their numbers, the month by its name, in no order that could be mistaken. */
export function DatePlayer({ view, response, onRespond, disabled }: PlayerProps<DateView, DateResponse>) {
  const date = response?.date;
  const [entered, setEntered] = useState(() => enteredOf(date));
  // What was cleared, or given in another window, stands in the fields; half a date being typed is not taken away.
  useEffect(() => {
    setEntered((now) => {
      const own = dateOf(now);
      return own === date || (own === null && date === undefined) ? now : enteredOf(date);
    });
  }, [date]);
  const change = (part: Partial<Entered>) => {
    const next = { ...entered, ...part };
    setEntered(next);
    const given = dateOf(next);
    onRespond(given ? { date: given } : undefined);
  };
  const own = dateOf(entered);
  const outside =
    typeof own === 'string' && ((view.earliest && own < view.earliest) || (view.latest && own > view.latest));
  const limits = [view.earliest && `from ${dateSaid(view.earliest)}`, view.latest && `to ${dateSaid(view.latest)}`]
    .filter(Boolean)
    .join(' ');
  const isFull = entered.day !== '' && entered.month !== '' && entered.year.length >= 4;
  const problem = outside
    ? `A date ${limits} is asked for.`
    : own === null && isFull
      ? 'There is no such day in the calendar.'
      : null;
  const number = (name: 'day' | 'year', label: string, most: number, width: string) => (
    <TextField
      label={label}
      className={width}
      inputMode="numeric"
      autoComplete="off"
      maxLength={most}
      disabled={disabled}
      value={entered[name]}
      onChange={(event) => change({ [name]: event.target.value.replace(/\D/g, '') })}
    />
  );
  return (
    <fieldset>
      <legend className="mb-1 text-sm text-ink-2">Your answer, a date{limits && ` ${limits}`}</legend>
      <div className="flex flex-wrap gap-3">
        {number('day', 'Day', 2, 'w-20')}
        <SelectField
          label="Month"
          className="w-40"
          disabled={disabled}
          value={entered.month}
          onChange={(event) => change({ month: event.target.value })}
        >
          <option value="">…</option>
          {months.map((name, i) => (
            <option key={name} value={String(i + 1)}>
              {name}
            </option>
          ))}
        </SelectField>
        {number('year', 'Year', 4, 'w-24')}
      </div>
      <p aria-live="polite" className={`mt-1 min-h-6 text-sm ${problem ? 'text-brick' : 'text-ink-2'}`}>
        {problem ?? (own === null ? 'Not whole yet: day, month and year.' : '')}
      </p>
    </fieldset>
  );
}
