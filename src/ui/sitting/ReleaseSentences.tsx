'use client';
import { type FormEvent, useState } from 'react';
import { day, hour, type Instant, instantFromLocal, localFromInstant } from '@/core/base/time';
import { type Completion, completionSaid } from '@/core/gradebook/completion';
import {
  type Fact,
  factNames,
  facts,
  longestOnce,
  type ReleaseEnd,
  type ReleaseMoment,
  type ReleasePlan,
  type ReleaseWindow,
  type SelfPublish,
} from '@/core/release/plan';
import { beginSaid, endSaid, windowSaid } from '@/core/release/planSaid';
import { presetOf, presets } from '@/core/release/presets';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { MomentPiece } from '../kit/MomentPiece';
import { NumberPiece } from '../kit/NumberPiece';
import { PickPiece } from '../kit/PickPiece';
import { SentencePiece } from '../kit/SentencePiece';
import { Tick } from '../kit/Tick';
import { SentenceProblem } from './RulePieces';

type Props = {
  plan: ReleasePlan;
  self: SelfPublish;
  completion: Completion | null;
  now: Instant;
  zone: string;
  problem: string | null;
  onPlan: (plan: ReleasePlan) => void;
  onSelf: (self: SelfPublish) => void;
  onCompletion: (completion: Completion | null) => void;
};

/** What students see, and when: a preset in plain words, and below it a line for each fact, changed piece by piece. */
export function ReleaseSentences({ plan, self, completion, now, zone, problem, onPlan, onSelf, onCompletion }: Props) {
  const preset = presetOf(plan);
  const [open, setOpen] = useState(preset === null);
  const set = (fact: Fact, windows: ReleaseWindow[]) => {
    const { [fact]: _, ...rest } = plan;
    onPlan(windows.length ? { ...rest, [fact]: windows } : rest);
  };
  return (
    <div className="space-y-2.5 leading-8">
      <div>
        Students see{' '}
        <SentencePiece
          says={preset ? lower(preset.name) : 'what is set fact by fact'}
          label={`What students see: ${preset ? lower(preset.name) : 'as set fact by fact'}`}
        >
          {(close) => (
            <fieldset className="max-w-110">
              <legend className="mb-1 text-sm font-medium">What students see</legend>
              {presets.map((one) => (
                <Tick
                  key={one.key}
                  radio
                  name="preset"
                  on={one === preset}
                  onChange={() => {
                    onPlan(one.plan);
                    close();
                  }}
                >
                  {one.name}
                </Tick>
              ))}
            </fieldset>
          )}
        </SentencePiece>
        .{' '}
        <button
          type="button"
          aria-expanded={open}
          className="text-sm text-prussian underline decoration-dotted"
          onClick={() => setOpen(!open)}
        >
          {open ? 'Hide the facts' : 'Fact by fact'}
        </button>
        <SentenceProblem text={problem} />
      </div>
      {open && (
        <ul className="border-l-2 border-line pl-4 leading-7">
          {facts.map((fact) => (
            <li key={fact}>
              <span className="text-ink-2">{factNames[fact]}:</span>{' '}
              {(plan[fact] ?? []).map((window, i, all) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: windows have no name but their place
                <span key={i}>
                  {i > 0 && '; again '}
                  <WindowPiece
                    fact={fact}
                    window={window}
                    now={now}
                    zone={zone}
                    onSet={(next) =>
                      set(
                        fact,
                        all.map((one, at) => (at === i ? next : one)),
                      )
                    }
                    onRemove={() =>
                      set(
                        fact,
                        all.filter((_, at) => at !== i),
                      )
                    }
                  />
                </span>
              ))}
              {plan[fact]?.length ? (
                <>
                  {' '}
                  <WindowPiece
                    fact={fact}
                    window={null}
                    says="and again …"
                    now={now}
                    zone={zone}
                    onSet={(next) => set(fact, [...(plan[fact] ?? []), next])}
                  />
                </>
              ) : (
                <WindowPiece
                  fact={fact}
                  window={null}
                  says="never"
                  now={now}
                  zone={zone}
                  onSet={(next) => set(fact, [next])}
                />
              )}
            </li>
          ))}
        </ul>
      )}
      <div>
        Results are published{' '}
        <PickPiece
          label="How results are published"
          value={self.kind}
          options={[
            { value: 'no', says: 'by you' },
            { value: 'each', says: 'by themselves, each as soon as it is completely marked' },
            {
              value: 'all',
              says: 'by themselves, all once the last is marked',
              means: 'by themselves, all together, once it is over for everyone and the last is marked',
            },
          ]}
          onPick={(kind) => onSelf({ ...self, kind })}
        />
        {self.kind !== 'no' && (
          <>
            ,{' '}
            <MomentPiece
              label="Not published before"
              value={self.notBefore === null ? '' : localFromInstant(self.notBefore, zone)}
              zone={zone}
              none="as soon as that is so"
              propose={() => localFromInstant(Math.ceil((now + day) / hour) * hour, zone)}
              problem={null}
              onSet={(text) => onSelf({ ...self, notBefore: instantFromLocal(text, zone) })}
            />
          </>
        )}
        . A student is{' '}
        <PickPiece
          label="When a student is done with it"
          value={completion?.kind ?? 'none'}
          options={[
            { value: 'none', says: 'not told when they are done' },
            { value: 'when-marked', says: 'done when marked' },
            { value: 'when-passed', says: completion ? completionSaid(completion) : 'done when passed' },
          ]}
          onPick={(kind) =>
            onCompletion(
              kind === 'none' ? null : kind === 'when-marked' ? { kind } : { kind: 'when-passed', percent: 60 },
            )
          }
        />
        {completion?.kind === 'when-passed' && (
          <>
            {' '}
            (
            <SentencePiece says={`${completion.percent} %`} label={`Passed at: ${completion.percent} %`}>
              {(close) => (
                <NumberPiece
                  label="Passed at, in percent"
                  value={completion.percent}
                  onSet={(percent) => onCompletion({ kind: 'when-passed', percent })}
                  onDone={close}
                />
              )}
            </SentencePiece>
            )
          </>
        )}
        .
      </div>
    </div>
  );
}

const lower = (text: string) => `${text[0]?.toLowerCase()}${text.slice(1)}`;

function WindowPiece({
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
  const soon = localFromInstant(Math.ceil((now + 7 * day) / hour) * hour, zone);
  const [at, setAt] = useState('at' in begins ? localFromInstant(begins.at, zone) : soon);
  const [endKind, setEndKind] = useState<EndKind>(ends?.kind ?? 'never');
  const [endDays, setEndDays] = useState(String(ends?.kind === 'after-days' ? ends.days : 7));
  const [endAt, setEndAt] = useState(ends?.kind === 'at' ? localFromInstant(ends.at, zone) : soon);
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
  const moment = (value: ReleaseMoment['kind'], text: string, field: React.ReactNode = null) => (
    <>
      <Tick radio name="begins" on={kind === value} onChange={() => setKind(value)}>
        {text}
      </Tick>
      {kind === value && field && <div className="mb-1 pl-7">{field}</div>}
    </>
  );
  const ending = (value: EndKind, text: string, field: React.ReactNode = null) => (
    <>
      <Tick radio name="ends" on={endKind === value} onChange={() => setEndKind(value)}>
        {text}
      </Tick>
      {endKind === value && field && <div className="mb-1 pl-7">{field}</div>}
    </>
  );
  const small = (name: string, value: string, onChange: (text: string) => void, wrong: boolean, hint: string) => (
    <TextField
      label={name}
      className="w-28"
      inputMode="numeric"
      value={value}
      problem={wrong ? hint : null}
      onChange={(event) => onChange(event.target.value)}
    />
  );
  return (
    <form onSubmit={submit} className="w-[34rem] max-w-full">
      <div className="grid gap-x-4 leading-normal sm:grid-cols-2">
        <fieldset>
          <legend className="mb-1 text-sm font-medium">{label}: shown</legend>
          {moment('on-publishing', 'on publishing')}
          {moment('on-hand-in', 'on hand-in')}
          {moment('as-they-go', 'as they go')}
          {moment(
            'after-attempt',
            'after an attempt',
            small('Attempt', number, setNumber, begin === null, 'A number from 1.'),
          )}
          {moment('after-last-attempt', 'after the last attempt')}
          {moment('over-for-everyone', 'when it is over for everyone')}
          {moment(
            'after-closing',
            'so many days after the closing',
            small('Days', days, setDays, begin === null, 'Whole days.'),
          )}
          {moment(
            'at',
            'at a moment',
            <TextField
              label="Moment"
              type="datetime-local"
              className="w-56"
              value={at}
              onChange={(event) => setAt(event.target.value)}
              hint={`by the clock of ${zone}`}
            />,
          )}
        </fieldset>
        <fieldset>
          <legend className="mb-1 text-sm font-medium">and hidden again</legend>
          {ending('never', 'never')}
          {ending('at-closing', 'at the closing')}
          {ending(
            'after-days',
            'after some days',
            small('Days', endDays, setEndDays, end === null, 'Whole days, from 1.'),
          )}
          {ending(
            'at',
            'at a moment',
            <TextField
              label="Moment"
              type="datetime-local"
              className="w-56"
              value={endAt}
              onChange={(event) => setEndAt(event.target.value)}
            />,
          )}
          {ending(
            'once',
            'once seen: opened by the student, for some minutes',
            small('Minutes', minutes, setMinutes, end === null, `From 1 to ${longestOnce}.`),
          )}
        </fieldset>
      </div>
      <div className="mt-2 flex items-center gap-2 border-t border-line pt-2">
        <p className="min-w-0 flex-1 text-sm text-ink-2">
          {begin && end
            ? `${label}: ${beginSaid(begin, zone)}${end === 'never' ? '' : `, ${endSaid(end, zone)}`}.`
            : 'Something is missing above.'}
        </p>
        {onRemove && <Button onClick={onRemove}>Never</Button>}
        <Button type="submit" look="main" whyNot={begin && end ? null : 'Something is missing above.'}>
          Set
        </Button>
      </div>
    </form>
  );
}
