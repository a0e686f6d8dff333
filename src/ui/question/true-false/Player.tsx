import type { TrueFalseResponse, TrueFalseView } from '@/core/question/types/true-false/student';
import { TextButton } from '../../kit/TextButton';
import type { PlayerProps } from '../playing';

/** Two wide buttons side by side. */
export function TrueFalsePlayer({
  response,
  onRespond,
  name,
  disabled,
}: PlayerProps<TrueFalseView, TrueFalseResponse>) {
  return (
    <fieldset disabled={disabled}>
      <legend className="sr-only">Is this true or false?</legend>
      <div className="flex gap-3">
        {[true, false].map((value) => {
          const chosen = response?.picked === value;
          return (
            <label
              key={String(value)}
              className={`flex min-h-11 flex-1 items-center gap-3 rounded-sm border px-4 ${chosen ? 'border-prussian bg-prussian-wash' : 'border-edge hover:bg-paper'}`}
            >
              <input
                type="radio"
                name={name}
                checked={chosen}
                onChange={() => onRespond({ picked: value })}
                className="size-4 accent-prussian"
              />
              {value ? 'True' : 'False'}
            </label>
          );
        })}
      </div>
      <TextButton onClick={() => onRespond(undefined)} className={`mt-2 px-2 text-sm ${response ? '' : 'invisible'}`}>
        Clear my choice
      </TextButton>
    </fieldset>
  );
}
