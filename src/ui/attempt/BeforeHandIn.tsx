import type { RefObject } from 'react';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { Button } from '../kit/Button';
import type { PartProgress } from './chooseParts';
import type { TakingSlot } from './opening';

type Props = {
  heading: RefObject<HTMLHeadingElement | null>;
  signs: QuestionSign[];
  slots: readonly TakingSlot[];
  /** The choose-parts, and how far each has come. */
  progress: readonly PartProgress[];
  anonymous: boolean;
  /** The first page one can still go to. */
  from: number;
  onGo: (number: number) => void;
  onHandIn: () => void;
  handing: 'no' | 'yes' | { failed: string | null };
  waiting: boolean;
};

/** More numbers than this help nobody: the first ones lead there, the rest are counted. */
const mostNamed = 60;

/** What is empty or to come back to, one press from each, before the hand-in. */
export function BeforeHandIn({
  heading,
  signs,
  slots,
  progress,
  anonymous,
  from,
  onGo,
  onHandIn,
  handing,
  waiting,
}: Props) {
  const chosen = new Set(progress.map((part) => part.partId));
  const isLeft = (sign: QuestionSign, i: number) => !sign.answered && !chosen.has(slots[i]?.partId ?? '');
  const empty = signs.filter(isLeft);
  const required = empty.filter((sign) => slots[sign.number - 1]?.required);
  const missed = signs.filter((sign) => slots[sign.number - 1]?.checked?.mayAgain);
  const comeBack = signs.filter((sign) => sign.comeBack);
  const isOpen = (sign: QuestionSign) => (slots[sign.number - 1]?.page ?? 0) >= from;
  const numbers = (list: QuestionSign[]) => (
    <ul className="mt-1 flex flex-wrap gap-2">
      {list.slice(0, mostNamed).map((sign) => (
        <li key={sign.number}>
          {isOpen(sign) ? (
            <Button onClick={() => onGo(sign.number)} aria-label={`Go to question ${sign.number}`}>
              {sign.number}
            </Button>
          ) : (
            <span className="inline-block min-w-9 py-1.5 text-center text-ink-2">{sign.number}</span>
          )}
        </li>
      ))}
      {list.length > mostNamed && <li className="self-center text-base">and {list.length - mostNamed} more</li>}
    </ul>
  );
  return (
    <main className="mt-5 border border-line bg-sheet px-4 py-5 sm:px-6">
      <h2 ref={heading} tabIndex={-1} className="text-xl outline-none">
        Before you hand in
      </h2>
      <p className="mt-1">
        {signs.filter((sign) => sign.answered).length} of {signs.length} questions are answered.
      </p>
      {progress.map((part) => (
        <p key={part.partId} className={part.answered < part.rule.count ? 'text-saffron' : ''}>
          {part.title}: {part.answered} answered, {part.rule.count} asked for.
        </p>
      ))}
      {empty.length > 0 && (
        <div className="mt-4">
          <h3 className="font-sans text-base font-medium">Still empty</h3>
          {numbers(empty)}
        </div>
      )}
      {required.length > 0 && (
        <p className="mt-3 text-base text-saffron">
          {required.length === 1
            ? `Question ${required[0]?.number} has to be answered before you hand in.`
            : `Questions ${required.map((sign) => sign.number).join(', ')} have to be answered before you hand in.`}
        </p>
      )}
      {missed.length > 0 && (
        <div className="mt-4">
          <h3 className="font-sans text-base font-medium">Missed, and can be taken again</h3>
          {numbers(missed)}
        </div>
      )}
      {comeBack.length > 0 && (
        <div className="mt-4">
          <h3 className="font-sans text-base font-medium">You wanted to come back to</h3>
          {numbers(comeBack)}
        </div>
      )}
      <p className="mt-5 text-base text-ink-2">
        After handing in, nothing can be changed.
        {anonymous && ' Your answers leave this browser only now, without your name.'}
      </p>
      {typeof handing === 'object' && (
        <p role="alert" className="mt-2 text-base text-brick">
          {handing.failed ?? 'The server could not be reached. Your answers are kept; try again.'}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2 text-base">
        <Button look="main" disabled={handing === 'yes'} onClick={onHandIn}>
          {handing === 'yes' ? 'Handing in …' : waiting ? 'Send my answers and hand in' : 'Hand in'}
        </Button>
        <Button onClick={() => onGo((empty.find(isOpen) ?? signs.find(isOpen))?.number ?? 1)}>
          Back to the questions
        </Button>
      </div>
    </main>
  );
}
