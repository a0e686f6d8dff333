import type { MultipleChoiceResponse, MultipleChoiceView } from '@/core/question/types/multiple-choice/student';
import { ChoicesShown } from '../ChoicesShown';
import type { ShownProps } from '../playing';

export const MultipleChoiceShown = ({ view, response }: ShownProps<MultipleChoiceView, MultipleChoiceResponse>) => (
  <ChoicesShown choices={view.choices} labels={view.labels} picked={response?.picked ?? []} />
);
