'use client';
import type { ReactNode } from 'react';
import { pointsText } from '@/core/base/rounding';
import { pointsSaid } from '@/core/base/words';
import type { ReviewQuestion } from '@/server/release/reviewPaper';
import { FileLink } from '../kit/FileLink';
import { OnSheet } from '../kit/OnSheet';
import { Sheet, State } from '../kit/Page';
import { ReturnedFiles } from '../kit/ReturnedFiles';
import { RichText } from '../kit/RichText';
import { QuestionReview } from '../question/QuestionReview';
import { QuestionShown } from '../question/QuestionShown';
import { RubricTable } from '../question/written/RubricTable';

const outcomes: Record<
  NonNullable<ReviewQuestion['outcome']>,
  { says: string; ink: 'done' | 'wrong' | 'waits' | 'hand' | 'plain' }
> = {
  right: { says: 'right', ink: 'done' },
  partly: { says: 'partly right', ink: 'waits' },
  wrong: { says: 'wrong', ink: 'wrong' },
  given: { says: 'full points for everyone', ink: 'done' },
  waiting: { says: 'still to be marked', ink: 'hand' },
  'left-out': { says: 'does not count', ink: 'plain' },
};

/** A question of a student's paper with whatever the plan shows of it now. */
export function ReviewedQuestion({
  question,
  seesOwn,
  children,
}: {
  question: ReviewQuestion;
  seesOwn: boolean;
  children: ReactNode;
}) {
  const { view, keyed, outcome, feedback, solution } = question;
  return (
    <Sheet className="px-4 py-4 sm:px-6">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-4">
        <h3 className="font-sans text-base font-medium">Question {question.number}</h3>
        <span className="flex items-baseline gap-3">
          {outcome && <State ink={outcomes[outcome].ink}>{outcomes[outcome].says}</State>}
          <span className="text-ink-2 tabular-nums">
            {question.points === null
              ? pointsSaid(question.outOf)
              : `${pointsText(question.points)} of ${pointsText(question.outOf)}`}
          </span>
        </span>
      </div>
      {question.why && <p className="mb-2 border-l-2 border-saffron pl-3">{question.why}</p>}
      {keyed && (
        <QuestionReview
          content={keyed.content}
          presentation={keyed.presentation}
          response={question.response ?? undefined}
        />
      )}
      {view && <QuestionShown view={view} response={question.response ?? undefined} fileLink={fileLink} />}
      {seesOwn && question.response === null && (
        <p className="mt-2 text-ink-2">{question.onPaper ? 'You answered it on paper.' : 'You left it empty.'}</p>
      )}
      {question.onSheet && (
        <OnSheet slotId={question.slotId} stands={question.onSheet} number={question.number} className="mt-3" />
      )}
      {feedback.length > 0 && (
        <Aside label="Feedback">
          {feedback.map((one, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: words of feedback have no name but their place
            <div key={i}>
              {one.about && <p className="text-sm text-ink-2">“{one.about}”</p>}
              <RichText rich={one.said} />
            </div>
          ))}
        </Aside>
      )}
      {solution && (
        <Aside label="Worked solution">
          <RichText rich={solution} />
        </Aside>
      )}
      {(question.comment || question.notes.length > 0 || question.rubric || question.files.length > 0) && (
        <Aside label="From your marker">
          {question.comment && <p className="whitespace-pre-wrap">{question.comment}</p>}
          {question.notes.length > 0 && (
            <ul className="mt-1 space-y-1">
              {question.notes.map((note) => (
                <li key={`${note.text}${note.said}`}>
                  <span className="font-serif">“{note.text}”</span>: {note.said}
                </li>
              ))}
            </ul>
          )}
          {question.rubric && <RubricTable rubric={question.rubric.rubric} levels={question.rubric.levels} />}
          <ReturnedFiles files={question.files} className="mt-1" />
        </Aside>
      )}
      <div className="mt-2 -ml-3 print:hidden">{children}</div>
    </Sheet>
  );
}

/** A file that was handed in can be looked at again. */
const fileLink = (id: string, name: string) => (
  <FileLink href={`/answer-files/${id}`} download>
    {name}
  </FileLink>
);

const Aside = ({ label, children }: { label: string; children: ReactNode }) => (
  <section aria-label={label} className="mt-3 border-l-2 border-prussian pl-4">
    <h4 className="font-sans text-sm font-medium text-prussian">{label}</h4>
    {children}
  </section>
);
