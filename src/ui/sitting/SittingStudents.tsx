'use client';
import { useEffect, useRef, useState } from 'react';
import { localFromInstant } from '@/core/base/localTime';
import { durationText, type Instant, inZone } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { closesFor, limitFor } from '@/core/sitting/clock';
import { myClock, ownTimes } from '@/core/sitting/myClock';
import type { Arrangement, SittingRules } from '@/core/sitting/rules';
import type { SittingStudent as Student } from '@/server/sitting/openSitting';
import { Button } from '../kit/Button';
import type { Commands, InputOf } from '../kit/commands';
import { TextField } from '../kit/Field';
import { Find, holds } from '../kit/Find';
import { Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { WhenField } from '../kit/When';
import { MakeUp } from './MakeUp';

type Props = {
  rules: SittingRules;
  /** The server's clock. */
  now: Instant;
  students: Student[];
  timeZone: string;
  mayChange: boolean;
  /** Where the students' papers can be read; null where nobody has one. */
  papers: string | null;
  /** Null where nobody can be given a make-up. */
  makeUp: Commands<'makeUp', 'courseId' | 'sittingId'>['makeUp'] | null;
  /** The student for whom a make-up is begun as the page opens. */
  ill?: string | null;
} & Commands<'arrange', 'courseId' | 'sittingId'>;

/** Who takes the sitting, each with the time they really have, and what is arranged for one. */
export function SittingStudents({ rules, now, students, timeZone, mayChange, arrange, papers, makeUp, ill }: Props) {
  const [find, setFind] = useState('');
  const [open, setOpen] = useState<string | null>(null);
  const [isIll, setIsIll] = useState<string | null>(makeUp ? (ill ?? null) : null);
  const [done, setDone] = useState('');
  const hasOpened = rules.opens === null || rules.opens <= now;
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (!ill) return;
    row.current?.scrollIntoView({ block: 'center' });
  }, [ill]);
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
      {done && (
        <p role="status" className="px-4 py-1.5 text-pine">
          {done}
        </p>
      )}
      <ul className="max-h-[30rem] overflow-y-auto">
        {shown.map((student) => (
          <li
            key={student.userId}
            ref={student.userId === ill ? row : undefined}
            className="border-b border-line [contain-intrinsic-size:auto_37px] last:border-b-0 [content-visibility:auto]"
          >
            <div className="grid min-h-9 grid-cols-[1fr_auto_auto_auto_auto] items-center gap-3 px-4">
              <span className="min-w-0 truncate">
                {student.name} <span className="text-sm text-ink-2">{student.section}</span>
              </span>
              <span
                className={`text-sm tabular-nums ${isArranged(student.arrangement) ? 'text-saffron' : 'text-ink-2'}`}
              >
                {ownTime(rules, student.arrangement, timeZone)}
              </span>
              {papers && (
                <TextLink href={`${papers}/${student.userId}`} className="text-sm">
                  Paper<span className="sr-only"> of {student.name}</span>
                </TextLink>
              )}
              {makeUp && mayChange && hasOpened && student.attempts === 0 && !student.running && (
                <TextButton
                  className="text-sm"
                  aria-expanded={isIll === student.userId}
                  aria-label={`Was ill: ${student.name}`}
                  onClick={() => {
                    setIsIll(isIll === student.userId ? null : student.userId);
                    setDone('');
                  }}
                >
                  Was ill
                </TextButton>
              )}
              {mayChange && (
                <TextButton
                  className="text-sm"
                  aria-expanded={open === student.userId}
                  aria-label={`Arrange for ${student.name}`}
                  onClick={() => setOpen(open === student.userId ? null : student.userId)}
                >
                  Arrange
                </TextButton>
              )}
            </div>
            {makeUp && isIll === student.userId && (
              <MakeUp
                student={student}
                zone={timeZone}
                makeUp={makeUp}
                onDone={(said) => {
                  setIsIll(null);
                  setDone(said);
                }}
              />
            )}
            {open === student.userId && (
              <p className="border-t border-line bg-paper px-4 pt-2 text-sm">
                {student.arrangement.excused
                  ? `${student.name} is excused.`
                  : ownClock(rules, student.arrangement, timeZone, now)}
              </p>
            )}
            {open === student.userId && (
              <ArrangeOne
                arrangement={student.arrangement}
                standing={student.standing}
                zone={timeZone}
                arrange={(input) => arrange(student.userId, input)}
                onDone={() => setOpen(null)}
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
  one.opens !== null ||
  one.lastStart !== null ||
  one.due !== null ||
  one.entryCode !== null ||
  one.networks !== null;

function ownTime(rules: SittingRules, arrangement: Arrangement, zone: string): string {
  if (arrangement.excused) return 'excused';
  const limit = limitFor(rules, arrangement);
  const closes = closesFor(rules, arrangement);
  const own = arrangement.closes !== null ? 'd MMM HH:mm' : 'HH:mm';
  const said = [
    limit !== null && durationText(limit),
    arrangement.extraAttempts > 0 && `+${counted(arrangement.extraAttempts, 'attempt')}`,
    arrangement.opens !== null && `from ${inZone(arrangement.opens, zone, 'd MMM HH:mm')}`,
    closes !== null && closes !== rules.closes && `until ${inZone(closes, zone, own)}`,
    arrangement.entryCode !== null && 'own code',
    arrangement.networks !== null && 'own network',
  ];
  return said.filter(Boolean).join(', ');
}

/** The times of one student, in the sentence in which they are told them. */
function ownClock(rules: SittingRules, arrangement: Arrangement, zone: string, now: Instant): string {
  const said = myClock(ownTimes(rules, arrangement), { kind: 'not-yet', at: null }, zone, now, 'staff');
  return `${said.window} ${said.now}`;
}

const momentNames = { opens: 'Opens', lastStart: 'Last start', due: 'Due', closes: 'Closes' } as const;
const counts = {
  extraPercent: '% more time',
  extraMinutes: 'more minutes',
  extraAttempts: 'more attempts',
} as const;

/** What is arranged for one student in this sitting. */
function ArrangeOne({
  arrangement,
  standing,
  zone,
  arrange,
  onDone,
}: {
  arrangement: Arrangement;
  standing: boolean;
  zone: string;
  arrange: (input: InputOf<'arrange'>) => ReturnType<Props['arrange']>;
  onDone: () => void;
}) {
  const { perform, problems, busy } = usePerform();
  const local = (at: number | null) => (at === null ? '' : localFromInstant(at, zone));
  const [entered, setEntered] = useState({
    extraPercent: String(arrangement.extraPercent),
    extraMinutes: String(arrangement.extraMinutes),
    extraAttempts: String(arrangement.extraAttempts),
    opens: local(arrangement.opens),
    lastStart: local(arrangement.lastStart),
    due: local(arrangement.due),
    closes: local(arrangement.closes),
    entryCode: arrangement.entryCode ?? '',
    networks: (arrangement.networks ?? []).join(', '),
  });
  const [excused, setExcused] = useState(arrangement.excused);
  const field = (name: keyof typeof entered, label: string, more: { className?: string } = {}) => (
    <TextField
      label={label}
      className={more.className ?? 'w-28'}
      value={entered[name]}
      onChange={(event) => setEntered({ ...entered, [name]: event.target.value })}
      problem={problemAt(problems, name)}
    />
  );
  const save = () => {
    const { extraPercent, extraMinutes, extraAttempts, networks, ...rest } = entered;
    return perform(
      () =>
        arrange({
          ...rest,
          extraPercent: Number(extraPercent),
          extraMinutes: Number(extraMinutes),
          extraAttempts: Number(extraAttempts),
          networks: networks.split(/[\s,;]+/).filter(Boolean),
          excused,
        }),
      onDone,
    );
  };
  return (
    <form
      className="space-y-2 border-t border-line bg-paper px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className="flex flex-wrap gap-x-3 gap-y-2">
        {(Object.keys(counts) as (keyof typeof counts)[]).map((name) => (
          <span key={name}>{field(name, counts[name])}</span>
        ))}
      </div>
      <div className="flex flex-wrap gap-x-3 gap-y-2">
        {(Object.keys(momentNames) as (keyof typeof momentNames)[]).map((name) => (
          <span key={name}>
            <WhenField
              label={`${momentNames[name]} (own)`}
              kind="moment"
              zone={zone}
              className="w-60"
              value={entered[name]}
              onChange={(value) => setEntered({ ...entered, [name]: value })}
              problem={problemAt(problems, name)}
            />
          </span>
        ))}
      </div>
      <div className="flex flex-wrap gap-x-3 gap-y-2">
        {field('entryCode', 'Own entry code', { className: 'w-40' })}
        {field('networks', 'Own networks', { className: 'w-64' })}
      </div>
      <Problems problems={problemsBesides(problems, Object.keys(entered))} />
      <div className="flex flex-wrap items-center justify-between gap-3">
        <Tick on={excused} onChange={setExcused}>
          excused
        </Tick>
        {standing && (
          <span className="text-sm text-ink-2">
            A standing arrangement holds besides; the greater extra time counts.
          </span>
        )}
        <Button type="submit" look="main" disabled={busy}>
          Save
        </Button>
      </div>
    </form>
  );
}
