'use client';
import { counted } from '@/core/base/words';
import type { QuestionLook } from '@/core/exam/questionLook';
import type { Finding } from '@/core/question/finding';
import { Link } from '../kit/Link';

export type ExamQuestionLook = Omit<QuestionLook, 'findings'> & {
  findings: { questionId: string; name: string; bankId: string; finding: Finding }[];
  findingsInAll: number;
};

const percent = (share: number) => `${Math.round(100 * share)} %`;

function findingSaid(finding: Finding): string {
  switch (finding.kind) {
    case 'refers':
      return `shuffled, though a choice refers to others: “${finding.choices[0]?.text ?? ''}”`;
    case 'no-alternative-text':
      return 'a picture without alternative text';
    case 'no-right-answer':
    case 'unreachable':
      return finding.message;
  }
}

/** Of fewer questions than this, where their right answers stand says nothing. */
const fewestPlaced = 5;

/** What the plan check finds in the questions themselves: where right answers stand, and keys that need a look. */
export function QuestionLookSection({ courseBase, look }: { courseBase: string; look: ExamQuestionLook | null }) {
  if (!look) return <p className="mt-3 border-t border-line pt-3 text-ink-2">Looking through the questions …</p>;
  const { places, findings, findingsInAll } = look;
  if (look.questions === 0) return null;
  return (
    <section aria-label="The questions" className="mt-3 border-t border-line pt-3">
      {places.questions >= fewestPlaced && (
        <p className={places.crowded ? 'text-saffron' : ''}>
          Right answers of the {places.questions} questions that are not shuffled:{' '}
          {places.places.map(({ share }, i) => `${percent(share)} in place ${i + 1}`).join(', ')}
          {places.crowded ? ' – they crowd together.' : '.'}
        </p>
      )}
      {findingsInAll === 0 ? (
        <p className="text-pine">Nothing to mend in the {counted(look.questions, 'question')} it can draw.</p>
      ) : (
        <>
          <p className="mt-1">
            {findingsInAll === 1 ? 'One thing' : `${findingsInAll} things`} to look at in{' '}
            {counted(look.questions, 'question')}:
          </p>
          <ul className="max-h-56 space-y-1 overflow-y-auto text-saffron">
            {findings.map((one) => (
              <li key={`${one.questionId}${one.finding.kind}`}>
                <Link className="underline" href={`${courseBase}/banks/${one.bankId}?question=${one.questionId}`}>
                  {one.name}
                </Link>
                : {findingSaid(one.finding)}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
