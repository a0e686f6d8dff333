import type { ComponentType } from 'react';
import type { QuestionResponse, ResponseOf, ShownQuestion, ViewOf } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { RichText } from '../kit/RichText';
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

const players: { [Type in QuestionType]: ComponentType<PlayerProps<ViewOf<Type>, ResponseOf<Type>>> } = {
  'single-choice': SingleChoicePlayer,
  'multiple-choice': MultipleChoicePlayer,
  'true-false': TrueFalsePlayer,
  'short-text': ShortTextPlayer,
  numeric: NumericPlayer,
  'gap-fill': GapFillPlayer,
  matching: MatchingPlayer,
  ordering: OrderingPlayer,
  written: WrittenPlayer,
  'rating-scale': RatingScalePlayer,
  date: DatePlayer,
};

type Props = PlayerProps<ShownQuestion, QuestionResponse> & { stemClass?: string };

/** A question of any type as a student works with it: its text and the controls to answer it. */
export function QuestionPlayer({ stemClass = 'mb-4 text-xl', ...props }: Props) {
  const Player = players[props.view.type] as ComponentType<PlayerProps<ShownQuestion, QuestionResponse>>;
  return (
    <>
      {/* The running text of a gap-fill is where it is answered, so its player shows it. */}
      {props.view.type !== 'gap-fill' && <RichText rich={props.view.stem} className={stemClass} />}
      <Player {...props} />
    </>
  );
}
