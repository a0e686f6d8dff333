'use client';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { Button } from './Button';
import { NumberField } from './NumberField';
import { numberIn } from './numberIn';

/** A number in a small editor; what is not a number above 0 is not taken over. */
export function NumberPiece({
  label,
  value,
  whole,
  onSet,
  onDone,
}: {
  label: string;
  value: number;
  whole?: boolean;
  onSet: (value: number) => void;
  onDone: () => void;
}) {
  const [text, setText] = useState(pointsText(value));
  const number = numberIn(text);
  const fits = text.trim() !== '' && Number.isFinite(number) && number > 0 && (!whole || Number.isInteger(number));
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (fits) onDone();
      }}
    >
      <NumberField
        label={label}
        className="w-36"
        autoFocus
        value={text}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setText(event.target.value);
          const next = numberIn(event.target.value);
          if (
            event.target.value.trim() !== '' &&
            Number.isFinite(next) &&
            next > 0 &&
            (!whole || Number.isInteger(next))
          )
            onSet(next);
        }}
        problem={fits ? null : whole ? 'A whole number, at least 1.' : 'A number above 0.'}
      />
      <Button type="submit">Done</Button>
    </form>
  );
}
