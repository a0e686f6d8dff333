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

/** A draft that comes back has nothing where no number was typed. */
const plain = (value: number | null) =>
  value === null || !Number.isFinite(value) ? '' : String(Number(value.toPrecision(12)));

/** A number field that keeps what is typed while it is no number yet; then it gives NaN, which nothing can be saved with. */
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
        onChange(next.ok ? next.value : Number.NaN);
      }}
      problem={read.ok ? problem : 'A number, please.'}
    />
  );
}
