import type { SingleChoiceResponse, SingleChoiceView } from '@/core/question/types/single-choice/student';
import { RichText } from '../../kit/RichText';
import { letterOf } from '../letterOf';

type Props = {
  view: SingleChoiceView;
  response: SingleChoiceResponse | undefined;
  onRespond: (response: SingleChoiceResponse | undefined) => void;
  name: string;
  disabled?: boolean;
};

/** Choices as radio buttons whose whole row can be pressed; a picked one can be cleared. */
export function SingleChoicePlayer({ view, response, onRespond, name, disabled }: Props) {
  return (
    <fieldset disabled={disabled}>
      <legend className="sr-only">Choose one</legend>
      <ul className="border-y border-line">
        {view.choices.map((choice, i) => {
          const picked = response?.picked === choice.key;
          return (
            <li key={choice.key} className="border-b border-line last:border-b-0">
              <label
                className={`flex min-h-11 items-start gap-3 px-2 py-2.5 ${picked ? 'bg-prussian-wash' : 'hover:bg-paper'}`}
              >
                <input
                  type="radio"
                  name={name}
                  value={choice.key}
                  checked={picked}
                  onChange={() => onRespond({ picked: choice.key })}
                  className="mt-1.5 size-4 shrink-0 accent-prussian"
                />
                <span className="mt-0.5 w-5 shrink-0 font-medium text-ink-2">{letterOf(i)}</span>
                <RichText rich={choice.content} className="min-w-0 flex-1" />
              </label>
            </li>
          );
        })}
      </ul>
      <button
        type="button"
        onClick={() => onRespond(undefined)}
        className={`mt-2 px-2 text-sm text-prussian underline ${response ? '' : 'invisible'}`}
      >
        Clear my choice
      </button>
    </fieldset>
  );
}
