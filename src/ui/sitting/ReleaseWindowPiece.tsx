'use client';
import { type FormEvent, type ReactNode, useState } from 'react';
import { instantFromLocal, localFromInstant } from '@/core/base/localTime';
import { day, hour, type Instant } from '@/core/base/time';
import {
  type Fact,
  factNames,
  longestOnce,
  type ReleaseEnd,
  type ReleaseMoment,
  type ReleaseWindow,
} from '@/core/release/plan';
import { beginSaid, endSaid, windowSaid } from '@/core/release/planSaid';
import { Button } from '../kit/Button';
import { NumberField } from '../kit/NumberField';
import { SentencePiece } from '../kit/SentencePiece';
import { Tick } from '../kit/Tick';

/** A window of a fact in its sentence; it opens the choice of its beginning and its end. */
export function ReleaseWindowPiece({
  fact,
  window,
  says,
  now,
  zone,
  onSet,
  onRemove,
}: {
  fact: Fact;
  window: ReleaseWindow | null;
  says?: string;
  now: Instant;
  zone: string;
  onSet: (window: ReleaseWindow) => void;
  onRemove?: () => void;
}) {
  const text = says ?? (window ? windowSaid(window, zone) : '');
  return (
    <SentencePiece says={text} label={`${factNames[fact]}: ${text}`} quiet={says === 'and again …'}>
      {(close) => (
        <WindowFields
          label={factNames[fact]}
          window={window ?? { begins: { kind: 'on-publishing' } }}
          now={now}
          zone={zone}
          onSet={(next) => {
            onSet(next);
            close();
          }}
          onRemove={
            onRemove
              ? () => {
                  onRemove();
                  close();
                }
              : null
          }
        />
      )}
    </SentencePiece>
  );
}

import { WhenField } from '../kit/When';

type EndKind = ReleaseEnd['kind'] | 'never';

/** When a window begins and ends: each a choice, with what it needs beside it. */
function WindowFields({
  label,
  window,
  now,
  zone,
  onSet,
  onRemove,
}: {
  label: string;
  window: ReleaseWindow;
  now: Instant;
  zone: string;
  onSet: (window: ReleaseWindow) => void;
  onRemove: (() => void) | null;
}) {
  const { begins, ends } = window;
  const [kind, setKind] = useState<ReleaseMoment['kind']>(begins.kind);
  const [number, setNumber] = useState(String('number' in begins ? begins.number : 2));
  const [days, setDays] = useState(String('days' in begins ? begins.days : 2));
  /** So many weeks from now, by the hour. */
  const inWeeks = (weeks: number) => localFromInstant(Math.ceil((now + weeks * 7 * day) / hour) * hour, zone);
  const [at, setAt] = useState('at' in begins ? localFromInstant(begins.at, zone) : inWeeks(1));
  const [endKind, setEndKind] = useState<EndKind>(ends?.kind ?? 'never');
  const [endDays, setEndDays] = useState(String(ends?.kind === 'after-days' ? ends.days : 7));
  const [endAt, setEndAt] = useState(ends?.kind === 'at' ? localFromInstant(ends.at, zone) : inWeeks(2));
  const [minutes, setMinutes] = useState(String(ends?.kind === 'once' ? ends.minutes : 30));
  const whole = (text: string, least: number, most: number) => {
    const value = Number(text);
    return Number.isInteger(value) && value >= least && value <= most ? value : null;
  };
  const readBegin = (): ReleaseMoment | null => {
    if (kind === 'after-attempt') {
      const value = whole(number, 1, 100);
      return value === null ? null : { kind, number: value };
    }
    if (kind === 'after-closing') {
      const value = whole(days, 0, 366);
      return value === null ? null : { kind, days: value };
    }
    if (kind === 'at') {
      const value = instantFromLocal(at, zone);
      return value === null ? null : { kind, at: value };
    }
    return { kind };
  };
  const readEnd = (): ReleaseEnd | 'never' | null => {
    if (endKind === 'after-days') {
      const value = whole(endDays, 1, 366);
      return value === null ? null : { kind: endKind, days: value };
    }
    if (endKind === 'once') {
      const value = whole(minutes, 1, longestOnce);
      return value === null ? null : { kind: endKind, minutes: value };
    }
    if (endKind === 'at') {
      const value = instantFromLocal(endAt, zone);
      return value === null ? null : { kind: endKind, at: value };
    }
    return endKind === 'never' ? 'never' : { kind: endKind };
  };
  const [begin, end] = [readBegin(), readEnd()];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (begin && end) onSet(end === 'never' ? { begins: begin } : { begins: begin, ends: end });
  };
  const small = (name: string, value: string, onChange: (text: string) => void, wrong: boolean, hint: string) => (
    <NumberField
      label={name}
      className="w-28"
      whole
      value={value}
      problem={wrong ? hint : null}
      onChange={(event) => onChange(event.target.value)}
    />
  );
  const clock = (value: string, onChange: (text: string) => void) => (
    <WhenField
      label="Moment"
      kind="moment"
      zone={zone}
      className="w-60"
      value={value}
      onChange={onChange}
      hint={`by the clock of ${zone}`}
    />
  );
  return (
    <form onSubmit={submit} className="w-[34rem] max-w-full">
      <div className="grid gap-x-4 leading-normal sm:grid-cols-2">
        <Choices
          legend={`${label}: shown`}
          name="begins"
          value={kind}
          onPick={setKind}
          options={[
            { value: 'on-publishing', says: 'on publishing' },
            { value: 'on-hand-in', says: 'on hand-in' },
            { value: 'as-they-go', says: 'as they go' },
            {
              value: 'after-attempt',
              says: 'after an attempt',
              field: small('Attempt', number, setNumber, begin === null, 'A number from 1.'),
            },
            { value: 'after-last-attempt', says: 'after the last attempt' },
            { value: 'over-for-everyone', says: 'when it is over for everyone' },
            {
              value: 'after-closing',
              says: 'so many days after the closing',
              field: small('Days', days, setDays, begin === null, 'Whole days.'),
            },
            { value: 'at', says: 'at a moment', field: clock(at, setAt) },
          ]}
        />
        <Choices
          legend="and hidden again"
          name="ends"
          value={endKind}
          onPick={setEndKind}
          options={[
            { value: 'never', says: 'stays' },
            { value: 'at-closing', says: 'at the closing' },
            {
              value: 'after-days',
              says: 'after some days',
              field: small('Days', endDays, setEndDays, end === null, 'Whole days, from 1.'),
            },
            { value: 'at', says: 'at a moment', field: clock(endAt, setEndAt) },
            {
              value: 'once',
              says: 'once seen: opened by the student, for some minutes',
              field: small('Minutes', minutes, setMinutes, end === null, `From 1 to ${longestOnce}.`),
            },
          ]}
        />
      </div>
      <div className="mt-2 flex items-center gap-2 border-t border-line pt-2">
        <p className="min-w-0 flex-1 text-sm text-ink-2">
          {begin && end
            ? `${label}: ${beginSaid(begin, zone)}${end === 'never' ? '' : `, ${endSaid(end, zone)}`}.`
            : 'Something is missing above.'}
        </p>
        {onRemove && <Button onClick={onRemove}>Do not show</Button>}
        <Button type="submit" look="main" whyNot={begin && end ? null : 'Something is missing above.'}>
          Set
        </Button>
      </div>
    </form>
  );
}

type Choice<Value extends string> = {
  value: Value;
  says: string;
  /** What the choice needs, shown once it is made. */
  field?: ReactNode;
};

/** One of a few ways, with what the chosen one needs below it. */
function Choices<Value extends string>({
  legend,
  name,
  value,
  onPick,
  options,
}: {
  legend: string;
  name: string;
  value: Value;
  onPick: (value: Value) => void;
  options: readonly Choice<Value>[];
}) {
  return (
    <fieldset>
      <legend className="mb-1 text-sm font-medium">{legend}</legend>
      {options.map((one) => (
        <div key={one.value}>
          <Tick radio name={name} on={one.value === value} onChange={() => onPick(one.value)}>
            {one.says}
          </Tick>
          {one.value === value && one.field && <div className="mb-1 pl-7">{one.field}</div>}
        </div>
      ))}
    </fieldset>
  );
}
