'use client';
import Link from 'next/link';
import { useState } from 'react';
import { durationText, inZone } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { closesFor, limitFor } from '@/core/sitting/clock';
import type { Arrangement, SittingRules } from '@/core/sitting/rules';
import type { AudienceMember as Student } from '@/server/sitting/audience';
import { Button } from '../kit/Button';
import { inputShape } from '../kit/Field';
import { Find, holds } from '../kit/Find';
import { Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';

type Props = {
  rules: SittingRules;
  students: Student[];
  timeZone: string;
  mayChange: boolean;
  arrange: Command<[userId: string, input: unknown], null>;
  /** Where the students' papers can be read; null where nobody has one. */
  papers: string | null;
};

/** Who takes the sitting, each with the time they really have, and what is arranged for one. */
export function SittingStudents({ rules, students, timeZone, mayChange, arrange, papers }: Props) {
  const { perform, problems, busy } = usePerform();
  const [find, setFind] = useState('');
  const [open, setOpen] = useState<string | null>(null);
  const shown = students.filter((student) => holds(find, student.name, student.section));
  const differing = students.filter((student) => isArranged(student.arrangement)).length;
  return (
    <Sheet label="Students">
      <h2 className="px-4 pt-2 text-lg">{counted(students.length, 'student')}</h2>
      <Find
        label="Find students"
        placeholder="Find by name or section"
        value={find}
        onChange={setFind}
        said={differing > 0 && <span className="text-saffron">{differing} with an arrangement</span>}
      />
      <Problems problems={problems} className="m-2" />
      <ul className="max-h-[26rem] overflow-y-auto">
        {shown.map((student) => (
          <li key={student.userId} className="border-b border-line last:border-b-0">
            <div className="grid min-h-9 grid-cols-[1fr_auto_auto_auto] items-center gap-3 px-4">
              <span className="min-w-0 truncate">
                {student.name} <span className="text-sm text-ink-2">{student.section}</span>
              </span>
              <span
                className={`text-sm tabular-nums ${isArranged(student.arrangement) ? 'text-saffron' : 'text-ink-2'}`}
              >
                {ownTime(rules, student.arrangement, timeZone)}
              </span>
              {papers && (
                <Link href={`${papers}/${student.userId}`} className="text-sm text-prussian underline">
                  Paper<span className="sr-only"> of {student.name}</span>
                </Link>
              )}
              {mayChange && (
                <button
                  type="button"
                  className="text-sm text-prussian underline"
                  aria-expanded={open === student.userId}
                  aria-label={`Arrange for ${student.name}`}
                  onClick={() => setOpen(open === student.userId ? null : student.userId)}
                >
                  Arrange
                </button>
              )}
            </div>
            {open === student.userId && (
              <ArrangeOne
                arrangement={student.arrangement}
                busy={busy}
                onSave={(input) =>
                  perform(
                    () => arrange(student.userId, input),
                    () => setOpen(null),
                  )
                }
              />
            )}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

const isArranged = (one: Arrangement) =>
  one.extraPercent > 0 ||
  one.extraMinutes > 0 ||
  one.extraAttempts > 0 ||
  one.excused ||
  one.closes !== null ||
  one.opens !== null;

function ownTime(rules: SittingRules, arrangement: Arrangement, zone: string): string {
  if (arrangement.excused) return 'excused';
  const limit = limitFor(rules, arrangement);
  const closes = closesFor(rules, arrangement);
  const said = [
    limit !== null && durationText(limit),
    arrangement.extraAttempts > 0 && `+${arrangement.extraAttempts} attempts`,
    closes !== null && closes !== rules.closes && `until ${inZone(closes, zone, 'HH:mm')}`,
  ];
  return said.filter(Boolean).join(', ');
}

function ArrangeOne({
  arrangement,
  busy,
  onSave,
}: {
  arrangement: Arrangement;
  busy: boolean;
  onSave: (input: unknown) => void;
}) {
  const [entered, setEntered] = useState({
    extraPercent: String(arrangement.extraPercent),
    extraMinutes: String(arrangement.extraMinutes),
    extraAttempts: String(arrangement.extraAttempts),
    excused: arrangement.excused,
  });
  const field = (name: 'extraPercent' | 'extraMinutes' | 'extraAttempts', after: string) => (
    <label className="flex items-center gap-1.5">
      <input
        inputMode="numeric"
        value={entered[name]}
        onChange={(event) => setEntered({ ...entered, [name]: event.target.value })}
        className={`${inputShape} !w-16 text-right`}
      />{' '}
      {after}
    </label>
  );
  return (
    <form
      className="flex flex-wrap items-center gap-x-4 gap-y-2 bg-paper px-4 py-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        onSave({
          extraPercent: Number(entered.extraPercent),
          extraMinutes: Number(entered.extraMinutes),
          extraAttempts: Number(entered.extraAttempts),
          excused: entered.excused,
        });
      }}
    >
      {field('extraPercent', '% more time')}
      {field('extraMinutes', 'more minutes')}
      {field('extraAttempts', 'more attempts')}
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="accent-prussian"
          checked={entered.excused}
          onChange={(event) => setEntered({ ...entered, excused: event.target.checked })}
        />{' '}
        excused
      </label>
      <Button type="submit" look="main" disabled={busy}>
        Save
      </Button>
    </form>
  );
}
