import { readNumber } from '@/core/question/types/numeric/readNumber';
import { readQuantity } from '@/core/question/types/numeric/readQuantity';
import type { NumericResponse, NumericView } from '@/core/question/types/numeric/student';
import { SelectField, TextField } from '../../kit/Field';
import type { PlayerProps } from '../playing';

/** A field for one number that says at once how it was read, or why it was not; a unit behind it or from a list. */
export function NumericPlayer({ view, response, onRespond, disabled }: PlayerProps<NumericView, NumericResponse>) {
  const text = response?.text ?? '';
  const units = Array.isArray(view.unit) ? view.unit : null;
  const heard = echo(text, view.unit === 'typed');
  return (
    <div className="flex max-w-xl items-start gap-3">
      <TextField
        label={view.unit === 'typed' ? 'Your answer, a number and its unit' : 'Your answer, a number'}
        className="w-full max-w-xs"
        inputMode="text"
        autoComplete="off"
        spellCheck={false}
        maxLength={200}
        disabled={disabled}
        value={text}
        onChange={(event) =>
          onRespond(event.target.value === '' ? undefined : { ...response, text: event.target.value })
        }
        hint={heard.hint}
        problem={heard.problem}
      />
      {units && (
        <SelectField
          label="Unit"
          disabled={disabled}
          value={response?.unit ?? ''}
          onChange={(event) => onRespond({ text, ...(event.target.value ? { unit: event.target.value } : {}) })}
        >
          <option value="">–</option>
          {units.map((unit) => (
            <option key={unit}>{unit}</option>
          ))}
        </SelectField>
      )}
    </div>
  );
}

/** How a text was understood, in words: shown where it was not written just so. */
export function echo(text: string, withUnit: boolean): { hint?: string; problem?: string } {
  if (withUnit) {
    const read = readQuantity(text);
    if (!read.ok) return read.why === 'empty' ? {} : { problem: read.message };
    const said = [read.readAs, read.unit].filter(Boolean).join(' ');
    return said === text.trim() ? {} : { hint: `Read as ${said}` };
  }
  const read = readNumber(text);
  if (!read.ok) return read.why === 'empty' ? {} : { problem: read.message };
  return read.readAs === text.trim() ? {} : { hint: `Read as ${read.readAs}` };
}
