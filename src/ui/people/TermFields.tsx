'use client';
import type { Problem } from '@/core/base/result';
import { isCalendarDate } from '@/core/question/types/date/calendarDate';
import type { FreeDays } from '@/core/sitting/teachingWeeks';
import { Button, RemoveButton } from '../kit/Button';
import { TextField } from '../kit/Field';
import { problemAt } from '../kit/Problems';
import { WhenField } from '../kit/When';

export type TermEntered = { firstDay: string; freeDays: FreeDays[] };

type Props = {
  /** What the fields are called besides their own names, where two terms stand on one page. */
  whose?: string;
  term: TermEntered;
  onChange: (term: TermEntered) => void;
  problems: readonly Problem[];
  /** How the problems name these fields, such as `after.`. */
  at?: string;
};

/** When a course teaches: the first day, and the times without teaching. */
export function TermFields({ whose = '', term, onChange, problems, at = '' }: Props) {
  const set = (i: number, part: Partial<FreeDays>) =>
    onChange({ ...term, freeDays: term.freeDays.map((one, k) => (k === i ? { ...one, ...part } : one)) });
  return (
    <div className="space-y-2">
      <WhenField
        label={`First day of teaching${whose}`}
        kind="day"
        className="w-60"
        value={term.firstDay}
        onChange={(firstDay) => onChange({ ...term, firstDay })}
        problem={problemAt(problems, `${at}firstDay`)}
      />
      <fieldset>
        <legend className="text-sm font-medium">No teaching{whose}</legend>
        {term.freeDays.map((free, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place alone
          <div key={i} className="mt-1 flex flex-wrap items-start gap-2">
            <WhenField
              quiet
              label={`From, time ${i + 1} without teaching${whose}`}
              kind="day"
              className="w-48"
              value={free.from}
              onChange={(from) => set(i, { from, ...(isCalendarDate(from) && free.to < from ? { to: from } : {}) })}
              problem={problemAt(problems, `${at}freeDays.${i}.from`)}
            />
            <span className="pt-2">to</span>
            <WhenField
              quiet
              label={`To, time ${i + 1} without teaching${whose}`}
              kind="day"
              className="w-48"
              value={free.to}
              onChange={(to) => set(i, { to })}
              problem={problemAt(problems, `${at}freeDays.${i}.to`)}
            />
            <TextField
              quiet
              label={`Name of time ${i + 1} without teaching${whose}`}
              placeholder="for example: Easter"
              className="w-40"
              value={free.name}
              onChange={(event) => set(i, { name: event.target.value })}
              problem={problemAt(problems, `${at}freeDays.${i}.name`)}
            />
            <RemoveButton
              label={`Take out ${free.name || `time ${i + 1}`}`}
              onClick={() => onChange({ ...term, freeDays: term.freeDays.filter((_, k) => k !== i) })}
            />
          </div>
        ))}
        <Button
          look="quiet"
          onClick={() => onChange({ ...term, freeDays: [...term.freeDays, { from: '', to: '', name: '' }] })}
        >
          Add days without teaching
        </Button>
      </fieldset>
    </div>
  );
}
