import type { Problem } from '@/core/base/result';
import { questionTypeNames } from '@/core/question/definitions';
import { Button } from '../kit/Button';
import { Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { QuestionReview } from '../question/QuestionReview';
import type { OpenQuestion } from './model';

type Props = { question: OpenQuestion; busy: boolean; problems: Problem[]; onBringBack: () => void };

/** A question that is out of use: to be read, and brought back. */
export function RetiredQuestion({ question, busy, problems, onBringBack }: Props) {
  return (
    <Sheet label="Retired question" className="min-w-0 px-5 py-4">
      <div className="mb-3 flex flex-wrap items-start justify-between gap-3 bg-saffron-wash px-3 py-2">
        <p className="min-w-0 flex-1">
          <span className="font-medium text-saffron">Retired.</span> No exam draws it any more; papers that hold it keep
          it. Bring it back to change it.
        </p>
        <Button look="main" busy={busy} onClick={onBringBack}>
          Bring it back
        </Button>
      </div>
      <Problems problems={problems} className="mb-3" />
      <h2 className="text-lg">{question.shortName || questionTypeNames[question.content.type]}</h2>
      <QuestionReview content={question.content} />
    </Sheet>
  );
}
