'use client';
import { useState } from 'react';
import { type ItemType, itemKinds, itemTypes } from '@/core/exam/items/kinds';
import { Button } from '../kit/Button';
import { SelectField, TextField } from '../kit/Field';

/** A thing that is asked without preparation. */
export type Thing = { type: ItemType; choices: number; text: string };

const names: Record<ItemType, string> = {
  'single-choice': 'one of the choices',
  'multiple-choice': 'any of the choices',
  'true-false': 'true or false',
  numeric: 'a number',
  'short-text': 'a few words',
  written: 'sentences',
};

/** Asks a single thing now: how it is answered, and its words where they do not stand on the board. */
export function AskNow({ busy, act, onAsk }: { busy: boolean; act: string; onAsk: (thing: Thing) => void }) {
  const [type, setType] = useState<ItemType>('single-choice');
  const [choices, setChoices] = useState(4);
  const [text, setText] = useState('');
  const { hasChoices } = itemKinds[type];
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        onAsk({ type, choices, text });
      }}
    >
      <div className="flex flex-wrap gap-3">
        <SelectField
          label="Answered by"
          className="w-48"
          value={type}
          onChange={(event) => setType(event.target.value as ItemType)}
        >
          {itemTypes.map((one) => (
            <option key={one} value={one}>
              {names[one]}
            </option>
          ))}
        </SelectField>
        {hasChoices && (
          <SelectField
            label="Choices"
            className="w-36"
            value={String(choices)}
            onChange={(event) => setChoices(Number(event.target.value))}
          >
            {Array.from({ length: 19 }, (_, i) => i + 2).map((n) => (
              <option key={n} value={n}>
                A to {String.fromCharCode(64 + n)}
              </option>
            ))}
          </SelectField>
        )}
      </div>
      <TextField
        label="Its words"
        hint="Leave this empty where the question stands on the board."
        maxLength={500}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit" look="main" busy={busy}>
        {act}
      </Button>
    </form>
  );
}
