'use client';
import { useState } from 'react';
import { instantFromLocal } from '@/core/base/localTime';
import { momentText } from '@/core/base/time';
import { Button } from './Button';
import { SentencePiece } from './SentencePiece';
import { WhenField } from './When';

type Props = {
  label: string;
  /** Local to the zone, as a date-and-time field holds it; empty for none. */
  value: string;
  zone: string;
  /** What the sentence says where no moment is set. */
  none: string;
  /** What is proposed where none is set yet. */
  propose?: () => string;
  problem?: string | null;
  quiet?: boolean;
  onSet: (value: string) => void;
};

/** A piece of a sentence that is a moment; it is set as a whole, so that half a date changes nothing. */
export function MomentPiece({ label, value, zone, none, propose, problem, quiet, onSet }: Props) {
  const at = value === '' ? null : instantFromLocal(value, zone);
  return (
    <>
      <SentencePiece
        says={at === null ? none : momentText(at, zone)}
        label={`${label}: ${at === null ? none : momentText(at, zone)}`}
        wrong={Boolean(problem)}
        quiet={quiet && at === null}
      >
        {(close) => (
          <MomentFields
            label={label}
            value={value === '' && propose ? propose() : value}
            none={none}
            zone={zone}
            isSet={value !== ''}
            onSet={(next) => {
              onSet(next);
              close();
            }}
          />
        )}
      </SentencePiece>
      {problem && <span className="block text-sm leading-normal text-brick">{problem}</span>}
    </>
  );
}

function MomentFields({
  label,
  value,
  none,
  zone,
  isSet,
  onSet,
}: {
  label: string;
  value: string;
  none: string;
  zone: string;
  isSet: boolean;
  onSet: (value: string) => void;
}) {
  const [text, setText] = useState(value);
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text !== '') onSet(text);
      }}
    >
      <WhenField
        label={label}
        kind="moment"
        zone={zone}
        className="w-60"
        value={text}
        onChange={setText}
        hint={`by the clock of ${zone}`}
      />
      <span className="mb-6 flex gap-2">
        <Button type="submit" look="main" whyNot={text === '' ? 'Give a date and a time.' : null}>
          Set
        </Button>
        {isSet && <Button onClick={() => onSet('')}>{none}</Button>}
      </span>
    </form>
  );
}
