import type { DateResponse, DateView } from '@/core/question/types/date/student';
import { AnswerShown } from '../ChoicesShown';
import type { ShownProps } from '../playing';
import { dateSaid } from './dateSaid';

export const DateShown = ({ response }: ShownProps<DateView, DateResponse>) => (
  <AnswerShown text={response && dateSaid(response.date)} />
);
