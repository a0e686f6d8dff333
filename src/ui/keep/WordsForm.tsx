'use client';
import type { Result } from '@/core/base/result';
import { Button } from '../kit/Button';
import { TextArea } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { useWritten } from './useWritten';

type Props<Value> = {
  label: string;
  hint?: string;
  act: string;
  /** Where problems with the words stand. */
  field?: string;
  /** What tells these words from others under the same label. */
  of?: string;
  onSend: (text: string) => Promise<Result<Value>>;
  onSent: (value: Value) => void;
};

/** A few words that are sent or written down; what was typed stays until they are. */
export function WordsForm<Value>({ label, hint, act, field = 'text', of = label, onSend, onSent }: Props<Value>) {
  const { perform, problems, busy } = usePerform();
  const {
    value: text,
    change,
    done,
  } = useWritten(`words/${of}`, (typed) => (typed.trim() ? `“${label}”, begun` : null), '');
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        void perform(
          () => onSend(text),
          (value) => {
            done();
            onSent(value);
          },
        );
      }}
    >
      <TextArea
        label={label}
        rows={2}
        value={text}
        onChange={(event) => change(event.target.value)}
        problem={problemAt(problems, field)}
        {...(hint ? { hint } : {})}
      />
      <Problems problems={problemsBesides(problems, [field])} />
      <Button type="submit" disabled={busy}>
        {act}
      </Button>
    </form>
  );
}
