import { richFromText } from '@/core/base/rich';
import type { TrueFalseResponse, TrueFalseView } from '@/core/question/types/true-false/student';
import { ChoicesShown } from '../ChoicesShown';
import type { ShownProps } from '../playing';

const choices = ['True', 'False'].map((word) => ({ key: word, content: richFromText(word) }));

export const TrueFalseShown = ({ response }: ShownProps<TrueFalseView, TrueFalseResponse>) => (
  <ChoicesShown choices={choices} labels="none" picked={response ? [response.picked ? 'True' : 'False'] : []} />
);
