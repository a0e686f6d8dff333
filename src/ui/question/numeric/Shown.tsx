import type { NumericResponse, NumericView } from '@/core/question/types/numeric/student';
import { AnswerShown } from '../ChoicesShown';
import type { ShownProps } from '../playing';

export const NumericShown = ({ response }: ShownProps<NumericView, NumericResponse>) => (
  <AnswerShown text={response && [response.text, response.unit].filter(Boolean).join(' ')} />
);
