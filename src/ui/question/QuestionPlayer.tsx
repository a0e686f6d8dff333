import type { QuestionResponse, ShownQuestion } from '@/core/question/student';
import { RichText } from '../kit/RichText';
import { takingOf } from './players';
import type { PlayerProps } from './playing';

type Props = PlayerProps<ShownQuestion, QuestionResponse> & { stemClass?: string };

/** A question of any type as a student works with it: its text and the controls to answer it. */
export function QuestionPlayer({ stemClass = 'mb-4 text-xl', ...props }: Props) {
  const { Player, showsStem } = takingOf(props.view.type);
  return (
    <>
      {!showsStem && <RichText rich={props.view.stem} className={stemClass} />}
      <Player {...props} />
    </>
  );
}
