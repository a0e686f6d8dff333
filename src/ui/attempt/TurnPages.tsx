import { Button } from '../kit/Button';
import { TextButton } from '../kit/TextButton';
import type { Taking } from './useTaking';

/** The ways from a page of the paper: back, on, and to the hand-in. */
export function TurnPages({ taking }: { taking: Taking }) {
  const { paper, slots, page, lastPage, stuck } = taking;
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
          <Button
            look="main"
            onClick={() => (paper.onwardOnly ? void taking.onwardTo(page + 1) : taking.turnTo(page + 1))}
          >
            {paper.onwardOnly ? 'Go on: no way back' : 'Next'}
          </Button>
        ) : (
          <Button look="main" onClick={taking.toEnd}>
            To the hand-in
          </Button>
        )}
      </div>
      {stuck && (
        <p role="alert" className="mt-2 text-base text-brick">
          {stuck}
        </p>
      )}
      {page < lastPage && (
        <p className="mt-6 text-right text-base">
          <TextButton onClick={taking.toEnd}>I am finished: to the hand-in</TextButton>
        </p>
      )}
    </>
  );
}
