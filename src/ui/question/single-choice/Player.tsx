import type { SingleChoiceResponse, SingleChoiceView } from '@/core/question/types/single-choice/student';
import { ChoiceRows } from '../ChoiceRows';
import type { PlayerProps } from '../playing';

/** Choices as radio buttons whose whole row can be pressed; a picked one can be cleared. */
export const SingleChoicePlayer = ({
  view,
  response,
  onRespond,
  name,
  disabled,
}: PlayerProps<SingleChoiceView, SingleChoiceResponse>) => (
  <ChoiceRows
    kind="radio"
    legend="Choose one"
    name={name}
    disabled={disabled}
    choices={view.choices}
    labels={view.labels}
    picked={response ? [response.picked] : []}
    onPick={(key) => onRespond({ picked: key })}
    onClear={() => onRespond(undefined)}
  />
);
