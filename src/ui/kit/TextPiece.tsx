'use client';
import { useState } from 'react';
import { Button } from './Button';
import { TextArea, TextField } from './Field';
import { SentencePiece } from './SentencePiece';

type Props = {
  label: string;
  value: string;
  /** What the sentence says where nothing is set. */
  none: string;
  says?: string;
  hint?: string;
  lines?: boolean;
  problem?: string | null;
  /** What is wrong with what was typed; null where it can be set. What cannot is not set, and stays typed. */
  check?: (value: string) => string | null;
  onSet: (value: string) => void;
};

/** A piece of a sentence that is a few words; set as a whole. */
export function TextPiece({ label, value, none, says, hint, lines, problem, check, onSet }: Props) {
  const said = value === '' ? none : (says ?? value);
  return (
    <>
      <SentencePiece says={said} label={`${label}: ${said}`} wrong={Boolean(problem)}>
        {(close) => (
          <Words
            {...{ label, value, hint, lines, check }}
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

function Words({
  label,
  value,
  hint,
  lines,
  check,
  onSet,
}: Pick<Props, 'label' | 'value' | 'hint' | 'lines' | 'check' | 'onSet'>) {
  const [text, setText] = useState(value);
  const [wrong, setWrong] = useState<string | null>(null);
  const shared = { label, value: text, className: 'w-80', problem: wrong, ...(hint ? { hint } : {}) };
  return (
    <form
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        const why = check?.(text.trim()) ?? null;
        setWrong(why);
        if (why === null) onSet(text.trim());
      }}
    >
      {lines ? (
        <TextArea {...shared} rows={4} onChange={(event) => setText(event.target.value)} />
      ) : (
        <TextField {...shared} onChange={(event) => setText(event.target.value)} />
      )}
      <Button type="submit" look="main">
        Set
      </Button>
    </form>
  );
}
