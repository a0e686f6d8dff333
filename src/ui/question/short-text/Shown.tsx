import type { ShortTextResponse, ShortTextView } from '@/core/question/types/short-text/student';
import { AnswerShown } from '../ChoicesShown';
import type { ShownProps } from '../playing';

export const ShortTextShown = ({ response }: ShownProps<ShortTextView, ShortTextResponse>) => (
  <AnswerShown text={response?.text} />
);
