'use client';
import { useState } from 'react';
import { readNumber } from '@/core/question/types/numeric/readNumber';
import { NumberField } from '../kit/NumberField';

type Props = {
  label: string;
  quiet?: boolean;
  value: number;
  onChange: (value: number) => void;
  problem?: string | null;
  className?: string;
};

const plain = (value: number) => String(Number(value.toPrecision(12)));

/** A number field that keeps what is typed while it is not a number yet. */
export function NumberText({ label, quiet, value, onChange, problem, className }: Props) {
  const [text, setText] = useState(plain(value));
  const read = readNumber(text);
  const shown = read.ok && Math.abs(read.value - value) < 1e-9 * Math.max(1, Math.abs(value)) ? text : plain(value);
  return (
    <NumberField
      label={label}
      quiet={quiet}
      className={className}
      value={read.ok ? shown : text}
      onChange={(event) => {
        setText(event.target.value);
        const next = readNumber(event.target.value);
        if (next.ok) onChange(next.value);
      }}
      problem={problem ?? (read.ok ? null : 'A number, please.')}
    />
  );
}
