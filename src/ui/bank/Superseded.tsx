'use client';
import { contentText } from '@/core/question/content';
import { Button } from '../kit/Button';
import { QuestionReview } from '../question/QuestionReview';
import type { Fields } from './fields';
import type { Objective, OpenQuestion } from './model';

type Props = {
  mine: Fields;
  theirs: OpenQuestion;
  objectives: Objective[];
  onMine: () => void;
  onTheirs: () => void;
};

/** Two people edited the same question: the second sees both, and nothing has been overwritten. */
export function Superseded({ mine, theirs, objectives, onMine, onTheirs }: Props) {
  const codes = (ids: string[]) =>
    objectives
      .filter((one) => ids.includes(one.id))
      .map((one) => one.code)
      .join(', ') || 'none';
  const facts: [string, string, string][] = [
    ['Short name', mine.shortName, theirs.shortName],
    ['Difficulty', mine.difficulty ?? 'not set', theirs.difficulty ?? 'not set'],
    ['Points', mine.points || 'usual', theirs.ownPoints === null ? 'usual' : String(theirs.ownPoints)],
    ['Tags', mine.tags.join(', ') || 'none', theirs.tags.join(', ') || 'none'],
    ['Objectives', codes(mine.objectives), codes(theirs.objectives.map((one) => one.id))],
  ];
  const sameText = contentText(mine.content) === contentText(theirs.content);
  return (
    <section aria-label="Changed by someone else" className="border-b-2 border-saffron bg-saffron-wash px-5 py-3">
      <p className="font-medium">
        Someone else saved this question while you were writing. Nothing has been overwritten.
      </p>
      <div className="mt-2 grid grid-cols-2 gap-4 text-sm">
        {([0, 1] as const).map((side) => (
          <div key={side} className="min-w-0 border border-line bg-sheet p-3">
            <h3 className="mb-1 font-sans font-medium">{side === 0 ? 'Yours, below' : 'As it is saved now'}</h3>
            <QuestionReview content={side === 0 ? mine.content : theirs.content} />
            <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3 text-ink-2">
              {facts
                .filter(([, a, b]) => a !== b)
                .map(([name, a, b]) => (
                  <div key={name} className="contents">
                    <dt>{name}</dt>
                    <dd className="text-ink">{side === 0 ? a : b}</dd>
                  </div>
                ))}
            </dl>
            <Button className="mt-2" onClick={side === 0 ? onMine : onTheirs}>
              {side === 0 ? 'Save mine over it' : 'Take theirs'}
            </Button>
          </div>
        ))}
      </div>
      <p className="mt-2 text-sm text-ink-2">
        {sameText
          ? 'The words are the same; settings differ.'
          : 'Or bring the two together in the fields below, then save yours.'}
      </p>
    </section>
  );
}
