'use client';
import katex from 'katex';
import { useMemo, useState } from 'react';
import { seededRandom } from '@/core/base/random';
import { isEmptyRich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import { typeset } from '@/core/base/typeset';
import { pointsSaid } from '@/core/base/words';
import { type QuestionContent, questionContent } from '@/core/question/content';
import { definitionOf } from '@/core/question/definitions';
import { present, rightResponse, scoreResponse } from '@/core/question/score';
import { forStudent, type QuestionResponse } from '@/core/question/student';
import { Button } from '../kit/Button';
import { QuestionPlayer } from '../question/QuestionPlayer';

/** The student's view, live: it can be answered, filled with the right answer, and shows the credit for what is entered. */
export function QuestionPreview({ content, points }: { content: QuestionContent; points: number }) {
  const [response, setResponse] = useState<QuestionResponse | undefined>();
  const [paper, setPaper] = useState(1);
  const drawnFrom = JSON.stringify(definitionOf(content.type).drawnFrom(content));
  // biome-ignore lint/correctness/useExhaustiveDependencies: orders and values are drawn anew only when what they are drawn from changes
  const presentation = useMemo(() => present(content, seededRandom(`preview ${paper}`)), [drawnFrom, paper]);
  const parsed = questionContent.safeParse(content);
  const scored = scoreResponse(content, presentation, response);
  const differs = Object.keys(presentation).length > 0;
  return (
    <details className="border-t border-line pt-3">
      <summary className="text-sm font-medium text-prussian">As the student sees it</summary>
      <div className="mt-2 border border-line bg-paper px-4 py-3">
        {isEmptyRich(content.stem) && <p className="text-ink-2">The question has no text yet.</p>}
        <QuestionPlayer
          view={typeset(forStudent(content, presentation), katex)}
          response={response}
          onRespond={setResponse}
          name="preview"
          stemClass="mb-3 text-lg"
        />
        <div className="mt-3 flex flex-wrap items-center gap-3 text-sm">
          <Button
            whyNot={parsed.success ? null : 'It can be filled in once the question is complete.'}
            onClick={() => setResponse(rightResponse(content, presentation))}
          >
            Fill in the right answer
          </Button>
          {differs && (
            <Button
              onClick={() => {
                setPaper(paper + 1);
                setResponse(undefined);
              }}
            >
              Another paper
            </Button>
          )}
          <span aria-live="polite">
            {response === undefined
              ? 'Nothing entered: 0 points.'
              : scored.kind === 'by-hand'
                ? `Marked by hand, up to ${pointsSaid(points)}.`
                : `Earns ${pointsText(scored.credit * points)} of ${pointsSaid(points)}.`}
          </span>
        </div>
      </div>
    </details>
  );
}
