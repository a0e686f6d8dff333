'use client';
import { useState } from 'react';
import { instantFromLocal, localFromInstant } from '@/core/base/localTime';
import { day, hour, type Instant } from '@/core/base/time';
import type { Completion } from '@/core/gradebook/completion';
import {
  type Fact,
  factNames,
  facts,
  type ReleasePlan,
  type ReleaseWindow,
  type SelfPublish,
} from '@/core/release/plan';
import { presetOf, presets } from '@/core/release/presets';
import { MomentPiece } from '../kit/MomentPiece';
import { NumberPiece } from '../kit/NumberPiece';
import { PickPiece } from '../kit/PickPiece';
import { SentencePiece } from '../kit/SentencePiece';
import { TextButton } from '../kit/TextButton';
import { Tick } from '../kit/Tick';
import { ReleaseWindowPiece } from './ReleaseWindowPiece';
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
        <TextButton aria-expanded={open} className="text-sm decoration-dotted" onClick={() => setOpen(!open)}>
          {open ? 'Hide the facts' : 'Fact by fact'}
        </TextButton>
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
                  <ReleaseWindowPiece
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
                  <ReleaseWindowPiece
                    fact={fact}
                    window={null}
                    says="and again …"
                    now={now}
                    zone={zone}
                    onSet={(next) => set(fact, [...(plan[fact] ?? []), next])}
                  />
                </>
              ) : (
                <ReleaseWindowPiece
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
              none="at once"
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
            { value: 'when-passed', says: 'done when passed' },
          ]}
          onPick={(kind) =>
            onCompletion(
              kind === 'none' ? null : kind === 'when-marked' ? { kind } : { kind: 'when-passed', percent: 60 },
            )
          }
        />
        {completion?.kind === 'when-passed' && (
          <>
            {' at '}
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
          </>
        )}
        .
      </div>
    </div>
  );
}

const lower = (text: string) => `${text[0]?.toLowerCase()}${text.slice(1)}`;
