import type { QuestionResponse, ShownQuestion } from '@/core/question/student';
import type { NumericResponse } from '@/core/question/types/numeric/student';
import type { SingleChoiceResponse } from '@/core/question/types/single-choice/student';
import type { WrittenText } from '@/core/question/types/written/student';
import { NumericPlayer } from './numeric/Player';
import { SingleChoicePlayer } from './single-choice/Player';
import { WrittenPlayer } from './written/Player';

type Props = {
  view: ShownQuestion;
  response: QuestionResponse | undefined;
  onRespond: (response: QuestionResponse | undefined) => void;
  /** Tells this question's controls from those of others on the page. */
  name: string;
  disabled?: boolean;
};

/** The controls with which a student answers a question of any type. */
export function QuestionPlayer({ view, response, ...rest }: Props) {
  switch (view.type) {
    case 'single-choice':
      return <SingleChoicePlayer view={view} response={response as SingleChoiceResponse | undefined} {...rest} />;
    case 'numeric':
      return <NumericPlayer response={response as NumericResponse | undefined} {...rest} />;
    case 'written':
      return <WrittenPlayer view={view} response={response as WrittenText | undefined} {...rest} />;
  }
}
