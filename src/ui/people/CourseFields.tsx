'use client';
import { useRouter } from 'next/navigation';
import type { FormEvent } from 'react';
import type { Result } from '@/core/base/result';
import { counted } from '@/core/base/words';
import type { BankElsewhere } from '@/server/people/courseBanks';
import { Meanwhile } from '../keep/Meanwhile';
import { useSettings } from '../keep/useSettings';
import { Button, ButtonLink } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { Tick } from '../kit/Tick';
import { TimeZoneField } from '../kit/TimeZoneField';
import { usePerform } from '../kit/usePerform';
import { type TermEntered, TermFields } from './TermFields';

type Fields = { name: string; term: string; timeZone: string; banks?: string[] } & Partial<TermEntered>;

type Props = {
  title: string;
  fields: Fields;
  act: string;
  submit: (
    input: Required<Omit<Fields, 'banks'>> & Pick<Fields, 'banks'>,
    seen: Required<Omit<Fields, 'banks'>>,
  ) => Promise<Result<{ courseId: string } | null>>;
  /** The banks of courses that the person teaches: a new course can use them. */
  banks?: BankElsewhere[];
  /** Where one goes without, and after, doing it; a new course has its own address. */
  back: string;
  onward?: string;
};

const noTerm = { firstDay: '', freeDays: [] };
const called = {
  name: 'Name',
  term: 'Term',
  timeZone: 'Time zone',
  firstDay: 'First day of teaching',
  freeDays: 'Days without teaching',
};
const said = (value: unknown): string =>
  Array.isArray(value)
    ? value.map((one: { from: string; to: string }) => `${one.from} to ${one.to}`).join('; ') || 'none'
    : String(value || 'nothing');

/** Name, term and time zone of a course, new or changed; of one that is there also when it teaches. */
export function CourseFields({ title, fields, act, submit, banks = [], back, onward }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const {
    entered,
    seen,
    clashes,
    change: setEntered,
    done,
    saved,
    isUnfinished,
  } = useSettings('course', title, fields);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    await perform(
      () => submit({ ...noTerm, ...entered }, { ...noTerm, ...seen }),
      (made) => {
        if (made) done();
        else saved();
        router.push(onward ?? (made ? `/c/${made.courseId}` : back));
      },
    );
  };
  const field = (name: 'name' | 'term', label: string, hint?: string) => (
    <TextField
      label={label}
      hint={hint}
      value={entered[name]}
      onChange={(event) => setEntered({ ...entered, [name]: event.target.value })}
      problem={problemAt(problems, name)}
    />
  );
  return (
    <form
      aria-label={title}
      onSubmit={(event) => void send(event)}
      className="space-y-3 border border-line bg-sheet px-6 py-5"
    >
      {field('name', 'Name')}
      {field('term', 'Term', 'For example: Autumn 2026')}
      <TimeZoneField
        label="Time zone"
        hint="All times of the course are shown in it. For example: Europe/Oslo"
        value={entered.timeZone}
        onChange={(timeZone) => setEntered({ ...entered, timeZone })}
        problem={problemAt(problems, 'timeZone')}
      />
      {entered.freeDays && (
        <TermFields
          term={{ firstDay: entered.firstDay ?? '', freeDays: entered.freeDays }}
          onChange={(term) => setEntered({ ...entered, ...term })}
          problems={problems}
        />
      )}
      {banks.length > 0 && (
        <fieldset>
          <legend className="mb-1 text-sm font-medium">Banks of questions it uses</legend>
          <div className="max-h-56 overflow-y-auto">
            {banks.map((bank) => (
              <Tick
                key={bank.id}
                on={entered.banks?.includes(bank.id) ?? false}
                onChange={(on) =>
                  setEntered({
                    ...entered,
                    banks: on
                      ? [...(entered.banks ?? []), bank.id]
                      : (entered.banks ?? []).filter((one) => one !== bank.id),
                  })
                }
              >
                {bank.name}{' '}
                <span className="text-sm text-ink-2">
                  {counted(bank.questions, 'question')} · {bank.courses.join('; ')}
                </span>
              </Tick>
            ))}
          </div>
          <p className="mt-1 text-sm text-ink-2">
            None ticked: an empty bank is begun for it. More can be taken up later.
          </p>
        </fieldset>
      )}
      <Meanwhile
        places={clashes.flatMap(({ path: [place = ''], theirs }) =>
          place in called ? [{ name: called[place as keyof typeof called], theirs: said(theirs) }] : [],
        )}
      />
      <Problems
        problems={problemsBesides(problems, ['name', 'term', 'timeZone', 'firstDay']).filter(
          (problem) => !/freeDays\.\d/.test(problem.field ?? ''),
        )}
      />
      <div className="flex gap-2">
        <Button look="main" type="submit" disabled={busy}>
          {act}
        </Button>
        <ButtonLink href={back}>Cancel</ButtonLink>
        {isUnfinished && <span className="self-center text-sm text-ink-2">Not saved yet; kept in this browser.</span>}
      </div>
    </form>
  );
}
