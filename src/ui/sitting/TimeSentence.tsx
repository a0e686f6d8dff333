'use client';
import type { FurtherRules } from '@/core/sitting/rules';
import { NumberPiece } from '../kit/NumberPiece';
import { PickPiece } from '../kit/PickPiece';
import { SentencePiece } from '../kit/SentencePiece';

type Rules = { timeLimitMinutes: number | null; fullTimeOnceStarted: boolean; further: FurtherRules; closes: string };

type Props = {
  entered: Rules;
  onChange: (part: Partial<Rules>) => void;
  /** Whether anything ends an attempt. */
  ends: boolean;
};

/** The time limit, what it runs against, and what happens when it is over. */
export function TimeSentence({ entered, onChange, ends }: Props) {
  const { timeLimitMinutes, fullTimeOnceStarted, further, closes } = entered;
  const { expiry } = further;
  const setExpiry = (next: FurtherRules['expiry']) => onChange({ further: { ...further, expiry: next } });
  return (
    <div>
      {timeLimitMinutes === null ? 'There is no time limit' : `Who has started has ${timeLimitMinutes} min`}
      {timeLimitMinutes !== null && closes !== '' && (
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
    </div>
  );
}
