import { choiceLabel } from '@/core/question/choiceLabel';
import type { ShownChoice } from '@/core/question/types/single-choice/student';
import { RichText } from '../kit/RichText';
import { TextButton } from '../kit/TextButton';

type Props = {
  kind: 'radio' | 'checkbox';
  legend: string;
  showLegend?: boolean;
  name: string;
  disabled?: boolean;
  choices: ShownChoice[];
  labels?: string;
  picked: string[];
  onPick: (key: string) => void;
  onClear: () => void;
};

/** Choices one below the other, the whole row of each to be pressed. */
export function ChoiceRows({
  kind,
  legend,
  showLegend,
  name,
  disabled,
  choices,
  labels,
  picked,
  onPick,
  onClear,
}: Props) {
  return (
    <fieldset disabled={disabled}>
      <legend className={showLegend ? 'mb-1 text-base text-ink-2' : 'sr-only'}>{legend}</legend>
      <ul className="border-y border-line">
        {choices.map((choice, i) => {
          const chosen = picked.includes(choice.key);
          return (
            <li key={choice.key} className="border-b border-line last:border-b-0">
              <label
                className={`flex min-h-11 items-start gap-3 px-2 py-2.5 ${chosen ? 'bg-prussian-wash' : 'hover:bg-paper'}`}
              >
                <input
                  type={kind}
                  name={name}
                  value={choice.key}
                  checked={chosen}
                  onChange={() => onPick(choice.key)}
                  className="mt-1.5 size-4 shrink-0 accent-prussian"
                />
                {labels !== 'none' && (
                  <span className="mt-0.5 min-w-5 shrink-0 font-medium text-ink-2">{choiceLabel(labels, i)}</span>
                )}
                <RichText rich={choice.content} className="min-w-0 flex-1" />
              </label>
            </li>
          );
        })}
      </ul>
      <TextButton
        disabled={disabled}
        onClick={onClear}
        className={`mt-2 px-2 text-sm ${picked.length && !disabled ? '' : 'invisible'}`}
      >
        {kind === 'radio' ? 'Clear my choice' : 'Clear my choices'}
      </TextButton>
    </fieldset>
  );
}
