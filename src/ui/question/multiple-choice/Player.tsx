import type { MultipleChoiceResponse, MultipleChoiceView } from '@/core/question/types/multiple-choice/student';
import { ChoiceRows } from '../ChoiceRows';
import type { PlayerProps } from '../playing';

/** Choices as boxes to tick, any number of them. */
export function MultipleChoicePlayer({
  view,
  response,
  onRespond,
  name,
  disabled,
}: PlayerProps<MultipleChoiceView, MultipleChoiceResponse>) {
  const picked = response?.picked ?? [];
  return (
    <ChoiceRows
      kind="checkbox"
      legend="Choose all that are right"
      showLegend
      name={name}
      disabled={disabled}
      choices={view.choices}
      labels={view.labels}
      picked={picked}
      onPick={(key) => {
        const next = picked.includes(key) ? picked.filter((one) => one !== key) : [...picked, key];
        onRespond(next.length ? { picked: next } : undefined);
      }}
      onClear={() => onRespond(undefined)}
    />
  );
}
