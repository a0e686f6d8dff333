'use client';
import type { Problem } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { counted, pointsSaid } from '@/core/base/words';
import { rubricPoints } from '@/core/marking/marks';
import { countWords } from '@/core/question/types/written/student';
import type { AnswerBody } from '@/server/marking/answerBodies';
import type { QuestionToMark } from '@/server/marking/answersToMark';
import { FileLink } from '../kit/FileLink';
import { NumberField } from '../kit/NumberField';
import { OnSheet } from '../kit/OnSheet';
import { Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { AnswerText } from './AnswerText';
import { CommentField, type CommentReader } from './CommentField';
import { RubricMarks } from './RubricMarks';
import type { Entered } from './useMarking';

type Props = {
  title: string;
  body: AnswerBody;
  question: QuestionToMark;
  entered: Entered;
  isTyped: boolean;
  problems: Problem[];
  /** Whom a comment is for: the student, who sees it or by the release plan never does, or whoever settles two marks. */
  comment: CommentReader;
  onEnter: (part: Partial<Entered>) => void;
  onForget: () => void;
  onKeep?: (text: string) => void;
  onDrop: (commentId: string) => void;
};

/** One answer with all that is given to it: notes, levels, points, comment. */
export function AnswerCard({ title, body, question, entered, isTyped, problems, comment, ...act }: Props) {
  const { rubric } = question;
  const pick = (criterionId: string, levelId: string) => {
    const levels = { ...entered.rubric, [criterionId]: levelId };
    const points = rubric && rubricPoints(rubric, levels, body.outOf);
    act.onEnter({ rubric: levels, ...(points === null ? {} : { points: String(Math.round(points * 100) / 100) }) });
  };
  const byRubric = rubric && rubricPoints(rubric, entered.rubric, body.outOf);
  return (
    <Sheet label={title}>
      <div data-answer={body.slotId} className="flex flex-wrap items-baseline gap-x-3 border-b border-line px-5 py-2">
        <h2 className="mr-auto text-lg">{title}</h2>
        <span className="text-sm text-ink-2">
          {body.whose === null && `${counted(countWords(body.text), 'word')} · `}
          {body.points === null ? 'waits for a mark' : `${pointsSaid(body.points)} given`}
          {isTyped && (
            <span className="text-saffron">
              {' · typed, not saved '}
              <TextButton onClick={act.onForget}>forget it</TextButton>
            </span>
          )}
        </span>
      </div>
      {body.chosen && <p className="border-b border-line px-5 py-1.5 text-sm text-ink-2">{chosenSaid(body.chosen)}</p>}
      <AnswerText body={body} notes={entered.notes} onNotes={(notes) => act.onEnter({ notes })} />
      {body.onSheet && (
        <OnSheet slotId={body.slotId} stands={body.onSheet} className="border-t border-line px-5 py-2" />
      )}
      {body.files.length > 0 && (
        <ul aria-label="Files handed in" className="border-t border-line px-5 py-2">
          {body.files.map((file) => (
            <li key={file.id}>
              <FileLink href={`/answer-files/${file.id}`} download>
                {file.name}
              </FileLink>
            </li>
          ))}
        </ul>
      )}
      {body.earlier.length > 0 && (
        <details className="border-t border-line px-5 py-2 text-sm">
          <summary className="text-prussian">
            What stood here in {counted(body.earlier.length, 'earlier attempt')}
          </summary>
          <ul className="mt-1 space-y-1">
            {body.earlier.map((one) => (
              <li key={one.attempt}>
                <span className="text-ink-2">Attempt {one.attempt}:</span>{' '}
                <span className="font-serif whitespace-pre-wrap">{one.text || 'nothing'}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
      {rubric && (
        <div className="border-t border-line px-5 py-3">
          <RubricMarks slotId={body.slotId} rubric={rubric} outOf={body.outOf} levels={entered.rubric} onPick={pick} />
        </div>
      )}
      <div className="grid grid-cols-[9rem_1fr] items-start gap-4 border-t border-line px-5 py-3">
        <NumberField
          label={`Points, 0 to ${pointsText(body.outOf)}`}
          autoComplete="off"
          data-points={body.slotId}
          value={entered.points}
          onChange={(event) => act.onEnter({ points: event.target.value })}
          hint={
            byRubric != null && entered.points !== '' && Math.abs(Number(entered.points) - byRubric) > 0.005
              ? `The rubric makes ${pointsText(byRubric)}.`
              : undefined
          }
          problem={problemAt(problems, 'points')}
        />
        <CommentField
          reader={comment}
          value={entered.comment}
          problem={problemAt(problems, 'comment')}
          comments={question.comments}
          onChange={(comment, used) =>
            act.onEnter({ comment, ...(used ? { used: [...new Set([...entered.used, used])] } : {}) })
          }
          onKeep={act.onKeep}
          onDrop={act.onDrop}
        />
      </div>
      <Problems problems={problemsBesides(problems, ['points', 'comment'])} className="mx-5 mb-3" />
    </Sheet>
  );
}

/** @example chosenSaid({ answered: [3, 5], count: 2, own: 3 }) // 'Chosen: questions 3 and 5, of which 2 are asked for.' */
function chosenSaid({ answered, count, own }: NonNullable<AnswerBody['chosen']>): string {
  const list =
    answered.length > 1 ? `${answered.slice(0, -1).join(', ')} and ${answered.at(-1)}` : String(answered[0] ?? 'none');
  return `Question ${own} of a part in which ${count} ${count === 1 ? 'is' : 'are'} to be chosen; answered: ${list}.`;
}
