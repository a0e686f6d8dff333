import { counted, oneOrMany } from '@/core/base/words';
import { questionTypeNames } from '@/core/question/definitions';
import type { AnswersPage } from '@/server/release/answerTally';
import { Link } from '../kit/Link';
import { Empty, Sheet } from '../kit/Page';

type Props = {
  answers: Pick<AnswersPage, 'anonymous' | 'sheets' | 'questions' | 'held' | 'leftOut'>;
  /** Where every answer to a question stands by itself; absent where no names may be seen. */
  each?: string;
};

const mostShown = 30;
const widthOf = (count: number, of: number) => `${of ? (100 * count) / of : 0}%`;

/** What was answered to each question, and how often: the most frequent first. */
export function AnswerTallies({ answers: { anonymous, sheets, questions, held, leftOut }, each }: Props) {
  if (!questions)
    return (
      <Empty title={held === 'not-over' ? 'Not before it is over' : 'Too few to be anonymous'}>
        {sheets === 0 ? 'Nobody has' : counted(sheets, 'has', 'have')} handed in so far. The answers are shown once it
        is over for everyone, and from five on, so that nobody can be guessed.
      </Empty>
    );
  if (questions.length === 0)
    return <Empty title="No answers yet">They stand here, question by question, once someone has handed in.</Empty>;
  return (
    <div className="space-y-4">
      <p className="text-ink-2">
        {counted(sheets, 'hand-in')}
        {anonymous && ', anonymous: nothing stored links an answer to a person'}.
        {leftOut > 0 &&
          ` ${counted(leftOut, 'question')} that fewer than five were asked ${oneOrMany(leftOut, 'is', 'are')} left out.`}
      </p>
      {questions.map((question) => (
        <Sheet
          key={question.questionId}
          label={question.name}
          className="px-4 py-3 [contain-intrinsic-size:auto_180px] [content-visibility:auto]"
        >
          <h2 className="text-lg">
            {each ? (
              <Link href={`${each}/${question.questionId}/responses`} className="hover:underline">
                {question.name}
              </Link>
            ) : (
              question.name
            )}
          </h2>
          <p className="text-sm text-ink-2">
            {question.partTitle} · {questionTypeNames[question.type].toLowerCase()} · answered by{' '}
            {question.asked - question.empty} of {question.asked}
          </p>
          <ul className="mt-2">
            {question.answers.slice(0, mostShown).map((answer) => (
              <li
                key={answer.text}
                className="grid grid-cols-[1fr_8rem_3rem] items-center gap-3 border-t border-line py-1"
              >
                <span className="min-w-0 break-words whitespace-pre-wrap">{answer.text}</span>
                <span className="h-2 bg-paper">
                  <span className="block h-2 bg-prussian" style={{ width: widthOf(answer.count, question.asked) }} />
                </span>
                <span className="text-right text-sm tabular-nums">{answer.count}</span>
              </li>
            ))}
          </ul>
          {question.answers.length > mostShown && (
            <p className="mt-1 text-sm text-ink-2">and {question.answers.length - mostShown} other answers</p>
          )}
        </Sheet>
      ))}
    </div>
  );
}
