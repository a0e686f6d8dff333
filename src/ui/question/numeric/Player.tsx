import { readNumber } from '@/core/question/types/numeric/readNumber';
import type { NumericResponse } from '@/core/question/types/numeric/student';
import { TextField } from '../../kit/Field';

type Props = {
  response: NumericResponse | undefined;
  onRespond: (response: NumericResponse | undefined) => void;
  disabled?: boolean;
};

/** A field for one number that says at once how it was read, or why it was not. */
export function NumericPlayer({ response, onRespond, disabled }: Props) {
  const text = response?.text ?? '';
  const read = readNumber(text);
  return (
    <TextField
      label="Your answer, a number"
      className="max-w-xs"
      inputMode="text"
      autoComplete="off"
      spellCheck={false}
      disabled={disabled}
      value={text}
      onChange={(event) => onRespond(event.target.value === '' ? undefined : { text: event.target.value })}
      hint={read.ok && read.readAs !== text.trim() ? `Read as ${read.readAs}` : undefined}
      problem={!read.ok && read.why !== 'empty' ? read.message : null}
    />
  );
}
