import type { SingleChoiceResponse, SingleChoiceView } from '@/core/question/types/single-choice/student';
import { ChoicesShown } from '../ChoicesShown';
import type { ShownProps } from '../playing';

export const SingleChoiceShown = ({ view, response }: ShownProps<SingleChoiceView, SingleChoiceResponse>) => (
  <ChoicesShown choices={view.choices} labels={view.labels} picked={response ? [response.picked] : []} />
);
