import type { ComponentType } from 'react';
import type { QuestionResponse, ResponseOf, ShownQuestion, ViewOf } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { RichText } from '../kit/RichText';
import { DateShown } from './date/Shown';
import { GapFillShown } from './gap-fill/Shown';
import { MatchingShown } from './matching/Shown';
import { MultipleChoiceShown } from './multiple-choice/Shown';
import { NumericShown } from './numeric/Shown';
import { OrderingShown } from './ordering/Shown';
import { takingOf } from './players';
import type { ShownProps } from './playing';
import { RatingScaleShown } from './rating-scale/Shown';
import { ShortTextShown } from './short-text/Shown';
import { SingleChoiceShown } from './single-choice/Shown';
import { TrueFalseShown } from './true-false/Shown';
import { WrittenShown } from './written/Shown';

const shown: { [Type in QuestionType]: ComponentType<ShownProps<ViewOf<Type>, ResponseOf<Type>>> } = {
  'single-choice': SingleChoiceShown,
  'multiple-choice': MultipleChoiceShown,
  'true-false': TrueFalseShown,
  'short-text': ShortTextShown,
  numeric: NumericShown,
  'gap-fill': GapFillShown,
  matching: MatchingShown,
  ordering: OrderingShown,
  written: WrittenShown,
  'rating-scale': RatingScaleShown,
  date: DateShown,
};

/** A question of any type as a student saw it, with what they answered: to be read, with nothing in it to be pressed. */
export function QuestionShown(props: ShownProps<ShownQuestion, QuestionResponse>) {
  const Shown = shown[props.view.type] as unknown as ComponentType<ShownProps<ShownQuestion, QuestionResponse>>;
  return (
    <>
      {!takingOf(props.view.type).showsStem && <RichText rich={props.view.stem} className="mb-3 text-lg" />}
      <Shown {...props} />
    </>
  );
}
