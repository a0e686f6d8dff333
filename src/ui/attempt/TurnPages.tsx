import { useEffect, useRef } from 'react';
import { oneOrMany } from '@/core/base/words';
import { Button } from '../kit/Button';
import { TextButton } from '../kit/TextButton';
import type { Taking } from './useTaking';

/** The ways from a page of the paper: back, on, and to the hand-in. */
export function TurnPages({ taking }: { taking: Taking }) {
  const { paper, slots, page, lastPage, stuck, leaving } = taking;
  if (!paper) return null;
  const first =
    lastPage === slots.length - 1 && !paper.sheet ? 'This is the first question.' : 'This is the first page.';
  return (
    <>
      <div className="mt-4 flex flex-wrap items-center justify-between gap-2 text-base">
        <Button
          onClick={() => taking.turnTo(page - 1)}
          whyNot={paper.onwardOnly ? 'There is no way back in this exam.' : page > 0 ? null : first}
        >
          Previous
        </Button>
        {page < lastPage ? (
          <Button look="main" data-next onClick={taking.next}>
            {paper.onwardOnly ? 'Go on: no way back' : 'Next'}
          </Button>
        ) : (
          <Button look="main" data-next onClick={taking.toEnd}>
            To the hand-in
          </Button>
        )}
      </div>
      {stuck && (
        <p role="alert" className="mt-2 text-base text-brick">
          {stuck}
        </p>
      )}
      {leaving && <LeaveForGood key={String(leaving.to)} taking={taking} />}
      {page < lastPage && (
        <p className="mt-6 text-right text-base">
          <TextButton onClick={taking.toEnd}>I am finished: to the hand-in</TextButton>
        </p>
      )}
    </>
  );
}

const questions = (numbers: readonly number[]): string =>
  `${oneOrMany(numbers.length, 'question')} ${numbers.length < 2 ? numbers[0] : `${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1)}`}`;

/** Asks before questions are left for good. */
export function LeaveForGood({ taking }: { taking: Taking }) {
  const { leaving, slots } = taking;
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  if (!leaving) return null;
  const { to, behind, empty } = leaving;
  const target = to === 'end' ? 'the hand-in' : `question ${slots.find((slot) => slot.page === to)?.number}`;
  return (
    <section aria-label="Leave for good?" className="mt-3 border border-saffron bg-saffron-wash px-4 py-3 text-base">
      <h2 ref={heading} tabIndex={-1} className="font-sans text-base font-medium outline-none">
        Go on to {target}?
      </h2>
      <p className="mt-1">
        You cannot go back to {questions(behind)} afterwards.
        {empty.length > 0 && <span className="font-medium text-saffron"> Still empty: {questions(empty)}.</span>}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button onClick={taking.stay}>Stay here</Button>
        <Button look="grave" onClick={() => void taking.onwardTo(to)}>
          Leave {behind.length === 1 ? 'it' : 'them'} for good
        </Button>
      </div>
    </section>
  );
}
