'use client';
import { useEffect, useRef, useState } from 'react';
import type { Rich } from '@/core/base/rich';
import { counted } from '@/core/base/words';
import { forStudent } from '@/core/question/student';
import type { ReviewQuestion } from '@/server/release/reviewPaper';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import { Link } from '../kit/Link';
import { Sheet } from '../kit/Page';
import { RichText } from '../kit/RichText';
import { QuestionReview } from '../question/QuestionReview';
import { QuestionShown } from '../question/QuestionShown';

/** Which cards were known, and which were not and come again, in that order; by the slots of the paper. */
type Progress = { known: readonly string[]; later: readonly string[] };
const atFirst: Progress = { known: [], later: [] };

const afterCard = ({ known, later }: Progress, slotId: string, wasKnown: boolean): Progress => {
  const others = later.filter((one) => one !== slotId);
  return wasKnown ? { known: [...known, slotId], later: others } : { known, later: [...others, slotId] };
};

/** The cards that are still to be known: those not seen yet, then those that come again. */
function cardsToGo(cards: readonly ReviewQuestion[], { known, later }: Progress): ReviewQuestion[] {
  const left = cards.filter((card) => !known.includes(card.slotId));
  return [
    ...left.filter((card) => !later.includes(card.slotId)),
    ...later.flatMap((slotId) => left.find((card) => card.slotId === slotId) ?? []),
  ];
}

type Props = { title: string; back: string; cards: ReviewQuestion[]; passages: Record<string, Rich> };

/**
 * Missed questions as cards: the question on one side, the answer and the solution on the other. Those that were not known
 * come again until they are.
 */
export function CardsPage({ title, back, cards, passages }: Props) {
  const progress = useWritten<Progress>(
    'cards',
    ({ known, later }) =>
      known.length < cards.length && known.length + later.length > 0
        ? `Cards of ${title}, ${known.length} of ${cards.length} known`
        : null,
    atFirst,
  );
  const [turned, setTurned] = useState(false);
  const heading = useRef<HTMLHeadingElement>(null);
  const queue = cardsToGo(cards, progress.value);
  const known = cards.length - queue.length;
  const [card] = queue;
  const next = (wasKnown: boolean) => {
    if (card) progress.change((now) => afterCard(now, card.slotId, wasKnown));
    setTurned(false);
    heading.current?.focus();
  };
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const on = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey || on.closest('input, textarea, select, button, a')) return;
      if (event.key === ' ' || event.key === 'Enter') setTurned((now) => !now);
      else if (turned && event.key === '1') next(false);
      else if (turned && event.key === '2') next(true);
      else return;
      event.preventDefault();
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  });
  return (
    <div>
      <p className="mb-1">
        <Link href={back} className="text-prussian hover:underline">
          ← {title}
        </Link>
      </p>
      <h1 ref={heading} tabIndex={-1} className="text-2xl outline-none">
        {card ? `Card ${known + 1} of ${cards.length}` : 'All cards known'}
      </h1>
      <p className="mb-4 text-ink-2">
        {known} known, {queue.length} to go
      </p>
      {card ? (
        <>
          <Sheet label={turned ? 'Answer' : 'Question'} className="min-h-72 px-5 py-5 text-lg">
            {card.passage && passages[card.passage] && (
              <details className="mb-3 text-base">
                <summary className="text-prussian">The passage it belongs to</summary>
                <RichText rich={passages[card.passage] as Rich} />
              </details>
            )}
            {turned ? <Back card={card} /> : <Front card={card} />}
          </Sheet>
          <div className="mt-3 flex flex-wrap items-center gap-2">
            {turned ? (
              <>
                <Button title="1" onClick={() => next(false)}>
                  Not known: comes again
                </Button>
                <Button look="main" title="2" onClick={() => next(true)}>
                  Known
                </Button>
              </>
            ) : (
              <Button look="main" title="Space" onClick={() => setTurned(true)}>
                Turn the card
              </Button>
            )}
            <span className="text-sm text-ink-2">Keys: Space turns, 1 not known, 2 known</span>
          </div>
        </>
      ) : (
        <Sheet className="px-5 py-5">
          <p className="mb-3">You have known {counted(cards.length, 'card')}.</p>
          <Button onClick={() => progress.change(atFirst)}>Once more from the beginning</Button>
        </Sheet>
      )}
    </div>
  );
}

function Front({ card }: { card: ReviewQuestion }) {
  const { keyed } = card;
  return keyed && <QuestionShown view={forStudent(keyed.content, keyed.presentation)} />;
}

function Back({ card }: { card: ReviewQuestion }) {
  const { keyed, solution } = card;
  return (
    <>
      {keyed && <QuestionReview content={keyed.content} presentation={keyed.presentation} />}
      {solution && (
        <section aria-label="Worked solution" className="mt-4 border-l-2 border-prussian pl-4 text-base">
          <h2 className="font-sans text-sm font-medium text-prussian">Worked solution</h2>
          <RichText rich={solution} />
        </section>
      )}
    </>
  );
}
