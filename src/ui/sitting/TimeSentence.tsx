'use client';
import type { FurtherRules } from '@/core/sitting/rules';
import { NumberPiece } from '../kit/NumberPiece';
import { PickPiece } from '../kit/PickPiece';
import { SentencePiece } from '../kit/SentencePiece';
import { SentenceProblem } from './RulePieces';

type Rules = { timeLimitMinutes: number | null; fullTimeOnceStarted: boolean; further: FurtherRules; closes: string };

type Props = {
  entered: Rules;
  problemOf: (field: string) => string | null;
  onChange: (part: Partial<Rules>) => void;
  /** Whether anything ends an attempt. */
  ends: boolean;
};

/** The time limit, what it runs against, and what happens when it is over. */
export function TimeSentence({ entered, problemOf, onChange, ends }: Props) {
  const { timeLimitMinutes, fullTimeOnceStarted, further, closes } = entered;
  const { expiry } = further;
  const setExpiry = (next: FurtherRules['expiry']) => onChange({ further: { ...further, expiry: next } });
  return (
    <div>
      From the start there is{' '}
      <PickPiece
        label="Time limit"
        value={timeLimitMinutes === null ? 'none' : 'some'}
        options={[
          { value: 'none', says: 'no time limit' },
          { value: 'some', says: 'a limit of', means: 'a time limit' },
        ]}
        onPick={(value) => onChange({ timeLimitMinutes: value === 'none' ? null : 60 })}
      />
      {timeLimitMinutes !== null && (
        <>
          {' '}
          <SentencePiece says={`${timeLimitMinutes} min`} label={`Minutes: ${timeLimitMinutes} min`}>
            {(close) => (
              <NumberPiece
                label="Minutes"
                value={timeLimitMinutes}
                whole
                onSet={(minutes) => onChange({ timeLimitMinutes: minutes })}
                onDone={close}
              />
            )}
          </SentencePiece>
          {closes !== '' && (
            <>
              ,{' '}
              <PickPiece
                label="Past the closing"
                value={fullTimeOnceStarted ? 'full' : 'never'}
                options={[
                  { value: 'never', says: 'never past the closing' },
                  {
                    value: 'full',
                    says: 'also past the closing',
                    means: 'also past the closing: who has started gets the full time',
                  },
                ]}
                onPick={(value) => onChange({ fullTimeOnceStarted: value === 'full' })}
              />
            </>
          )}
        </>
      )}
      .
      {ends && (
        <>
          {' '}
          When the time is over, an attempt{' '}
          <PickPiece
            label="When the time is over"
            value={expiry.kind}
            options={[
              { value: 'hand-in', says: 'is handed in by itself' },
              {
                value: 'grace',
                says: 'counts only if it is handed in within',
                means: 'counts only if its student hands it in within a grace; nothing more can be entered',
              },
            ]}
            onPick={(kind) => setExpiry(kind === 'grace' ? { kind, minutes: 2 } : { kind })}
          />
          {expiry.kind === 'grace' && (
            <>
              {' '}
              <SentencePiece says={`${expiry.minutes} min`} label={`Grace in minutes: ${expiry.minutes} min`}>
                {(close) => (
                  <NumberPiece
                    label="Grace in minutes"
                    value={expiry.minutes}
                    whole
                    onSet={(minutes) => setExpiry({ kind: 'grace', minutes })}
                    onDone={close}
                  />
                )}
              </SentencePiece>
            </>
          )}
          .
        </>
      )}
      <SentenceProblem text={problemOf('timeLimitMinutes')} />
    </div>
  );
}
