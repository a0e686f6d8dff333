'use client';
import { DayPicker } from 'react-day-picker';
import { localFromInstant } from '@/core/base/localTime';
import { isMonthFirst } from '@/core/base/typedMoment';

type Props = {
  /** `2026-12-01`, or empty. */
  day: string;
  zone: string;
  onPick: (day: string) => void;
};

/** Days are picked as they stand in the calendar, whatever the browser's own zone: by their numbers at its noon. */
const dateOf = (day: string): Date | undefined => {
  const [year, month, date] = day.split('-').map(Number);
  return year && month && date ? new Date(year, month - 1, date, 12) : undefined;
};
const two = (n: number) => String(n).padStart(2, '0');
const dayOf = (date: Date) => `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;

const day = 'size-9 rounded-sm tabular-nums hover:bg-prussian-wash';

/** A month of days, walked with the arrow keys; the week begins as it does where the course is. */
export default function Calendar({ day: chosen, zone, onPick }: Props) {
  const selected = dateOf(chosen);
  const today = dateOf(localFromInstant(Date.now(), zone).slice(0, 10));
  return (
    <DayPicker
      mode="single"
      autoFocus
      showOutsideDays
      weekStartsOn={isMonthFirst(zone) ? 0 : 1}
      selected={selected}
      defaultMonth={selected ?? today}
      today={today}
      onSelect={(date) => date && onPick(dayOf(date))}
      onDayClick={(date) => onPick(dayOf(date))}
      classNames={{
        months: 'relative',
        month_caption: 'mb-1 flex h-9 items-center justify-center font-serif text-lg',
        nav: 'absolute inset-x-0 top-0 flex h-9 items-center justify-between',
        button_previous: 'size-9 rounded-sm hover:bg-prussian-wash',
        button_next: 'size-9 rounded-sm hover:bg-prussian-wash',
        chevron: 'inline size-4 fill-prussian',
        weekday: 'size-9 text-sm font-normal text-ink-2',
        day_button: day,
        today: 'font-semibold text-prussian underline underline-offset-4',
        selected: 'bg-prussian text-sheet [&_button]:hover:text-ink',
        outside: 'text-ink-2 opacity-60',
      }}
    />
  );
}
