import { owedSaid } from '@/core/attempt/mayAnswer';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { nearText } from '@/core/base/time';
import { Button } from '../kit/Button';
import type { Taking } from './useTaking';

type Props = {
  taking: Taking;
  /** The first page one can still go to. */
  from: number;
};

/** More numbers than this help nobody: the first ones lead there, the rest are counted. */
const mostNamed = 60;

/** What is empty or to come back to, one press from each, before the hand-in. */
export function BeforeHandIn({ taking, from }: Props) {
  const { signs, slots, progress, paper, handing, closed, owed, begunOnly, isGrace, keeping } = taking;
  const chosen = new Set(progress.map((part) => part.partId));
  const isLeft = (sign: QuestionSign, i: number) => !sign.answered && !chosen.has(slots[i]?.partId ?? '');
  const empty = signs.filter(isLeft);
  const half = signs.filter((sign) => begunOnly.includes(sign.number));
  const missed = signs.filter((sign) => slots[sign.number - 1]?.checked?.mayAgain);
  const comeBack = signs.filter((sign) => sign.comeBack);
  const corrected = signs.filter((sign) => sign.corrected);
  const isOpen = (sign: QuestionSign) => !closed && (slots[sign.number - 1]?.page ?? 0) >= from;
  const numbers = (list: QuestionSign[]) => (
    <ul className="mt-1 flex flex-wrap gap-2">
      {list.slice(0, mostNamed).map((sign) => (
        <li key={sign.number}>
          {isOpen(sign) ? (
            <Button onClick={() => taking.goTo(sign.number)} aria-label={`Go to question ${sign.number}`}>
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
  const group = (title: string, list: QuestionSign[]) =>
    list.length > 0 && (
      <div className="mt-4">
        <h3 className="font-sans text-base font-medium">{title}</h3>
        {numbers(list)}
      </div>
    );
  const isWaiting = keeping.kind === 'offline' || keeping.kind === 'saving';
  return (
    <main className="mt-5 border border-line bg-sheet px-4 py-5 sm:px-6">
      <h2 ref={taking.endHeading} tabIndex={-1} className="text-xl outline-none">
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
      {group('Still empty', empty)}
      {group('Begun, with fields left empty', half)}
      {owed.length > 0 && <p className="mt-3 text-base text-saffron">{owedSaid(owed, 'you hand in')}</p>}
      {group('Missed, and can be taken again', missed)}
      {group('You wanted to come back to', comeBack)}
      {group('Corrected by your instructor', corrected)}
      <p className="mt-5 text-base text-ink-2">
        After handing in, nothing can be changed.
        {paper?.anonymous && ' Your answers leave this browser only now, without your name.'}
      </p>
      {handing.kind === 'refused' && (
        <p role="alert" className="mt-2 text-base text-brick">
          {handing.said}
        </p>
      )}
      {handing.kind === 'waiting' && handing.pressedAt !== null && (
        <p role="alert" className="mt-2 border border-saffron bg-saffron-wash px-3 py-2 text-base">
          You pressed “Hand in” at {nearText(handing.pressedAt, taking.timeZone, handing.pressedAt)}. The server cannot
          be reached now: your answers and your hand-in are kept in this browser, and are carried out as soon as the
          connection is back. Leave this page open.
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2 text-base">
        <Button
          look="main"
          disabled={handing.kind === 'under-way' || handing.kind === 'waiting' || handing.kind === 'done'}
          onClick={taking.handIn}
        >
          {handing.kind === 'under-way' || handing.kind === 'done'
            ? 'Handing in …'
            : handing.kind === 'waiting'
              ? 'Waiting for the connection …'
              : isWaiting
                ? 'Send my answers and hand in'
                : 'Hand in'}
        </Button>
        {!isGrace && !closed && (
          <Button onClick={() => taking.goTo((empty.find(isOpen) ?? signs.find(isOpen))?.number ?? 1)}>
            {handing.kind === 'waiting' ? 'Do not hand in yet: back to the questions' : 'Back to the questions'}
          </Button>
        )}
      </div>
    </main>
  );
}
