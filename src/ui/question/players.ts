import type { ComponentType } from 'react';
import type { QuestionResponse, ResponseOf, ShownQuestion, ViewOf } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { DatePlayer } from './date/Player';
import { GapFillPlayer } from './gap-fill/Player';
import { MatchingPlayer } from './matching/Player';
import { MultipleChoicePlayer } from './multiple-choice/Player';
import { NumericPlayer } from './numeric/Player';
import { OrderingPlayer } from './ordering/Player';
import type { PlayerProps } from './playing';
import { RatingScalePlayer } from './rating-scale/Player';
import { ShortTextPlayer } from './short-text/Player';
import { SingleChoicePlayer } from './single-choice/Player';
import { TrueFalsePlayer } from './true-false/Player';
import { WrittenPlayer } from './written/Player';

/** How a student works with questions of a type. */
type Taking<View, Response> = {
  Player: ComponentType<PlayerProps<View, Response>>;
  /** Whether every change is a decision and is sent at once; what is typed waits for a pause. */
  sentAtOnce: boolean;
  /** Whether the player shows the question's text itself, because it is answered in there. */
  showsStem: boolean;
  /** Whether an answer can be checked by its key between tries. */
  checkable: boolean;
  /** How many of its fields are empty, where it has several. */
  left?: (view: View, response: Response) => number;
};

const picked = { sentAtOnce: true, showsStem: false, checkable: true };
const typed = { sentAtOnce: false, showsStem: false, checkable: true };

const players: { [Type in QuestionType]: Taking<ViewOf<Type>, ResponseOf<Type>> } = {
  'single-choice': { ...picked, Player: SingleChoicePlayer },
  'multiple-choice': { ...picked, Player: MultipleChoicePlayer },
  'true-false': { ...picked, Player: TrueFalsePlayer },
  'short-text': { ...typed, Player: ShortTextPlayer },
  numeric: { ...typed, Player: NumericPlayer },
  'gap-fill': {
    ...typed,
    Player: GapFillPlayer,
    showsStem: true,
    left: (view, { gaps }) => view.gaps.filter((gap) => !gaps[gap.id]?.trim()).length,
  },
  matching: {
    ...picked,
    Player: MatchingPlayer,
    left: (view, { pairs }) => view.prompts.filter((prompt) => !pairs[prompt.key]).length,
  },
  ordering: { ...picked, Player: OrderingPlayer },
  written: { ...typed, Player: WrittenPlayer, checkable: false },
  'rating-scale': { ...picked, Player: RatingScalePlayer },
  date: { ...typed, Player: DatePlayer },
};

/** How a student works with questions of a type that is known only when it runs. */
export const takingOf = (type: QuestionType): Taking<ShownQuestion, QuestionResponse> =>
  players[type] as unknown as Taking<ShownQuestion, QuestionResponse>;
