'use client';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { longestRuler } from '@/core/attempt/paperRuler';
import { asideInShort, standingSaid } from '@/core/attempt/standing';
import { isEmptyRich } from '@/core/base/rich';
import { Button } from '../kit/Button';
import { PaperDocument } from '../kit/PaperDocument';
import { PaperRuler } from '../kit/PaperRuler';
import { pageWidths } from '../kit/pageWidths';
import { RichText } from '../kit/RichText';
import { takingOf } from '../question/players';
import { AnswerSheet } from './AnswerSheet';
import { BeforeHandIn } from './BeforeHandIn';
import { Notices } from './Notices';
import { PaperPages } from './PaperPages';
import { PaperQuestions } from './PaperQuestions';
import { SaveState } from './SaveState';
import { TakingKeys } from './TakingKeys';
import { TimeLeft } from './TimeLeft';
import { LeaveForGood, TurnPages } from './TurnPages';
import type { TakingPort } from './takingPort';
import { type Taking, useTaking } from './useTaking';

type Fill = (answers: { slotId: string; value: unknown }[]) => void;

type Props = {
  port: TakingPort;
  title: string;
  /** Called once the attempt has ended and nothing waits here to be sent. */
  onEnded: () => void;
  /** What stands above everything else, where the page is more than an exam. */
  above?: (fill: Fill) => ReactNode;
};

/** The exam as a student takes it: fetches the paper, then shows a page of it, the ruler, the time left, the save state. */
export function TakingPage({ port, title, onEnded, above }: Props) {
  const taking = useTaking(port, title, onEnded);
  const { paper, slots, page, shown, atEnd, signs, notices, change } = taking;
  const [isWide, setIsWide] = useState(false);
  // What is scrolled to, or gets the focus, stands below the header that stays.
  const top = useRef<HTMLElement>(null);
  useEffect(() => {
    const { style } = document.documentElement;
    style.scrollPaddingTop = `${(top.current?.offsetHeight ?? 0) + 8}px`;
    return () => {
      style.scrollPaddingTop = '';
    };
  });
  const onePage = slots.length > longestRuler;
  const ruler = (
    <PaperRuler
      signs={
        onePage ? signs.filter((_, i) => slots[i]?.page === page).map((sign) => ({ ...sign, current: false })) : signs
      }
      onPick={taking.goTo}
      label="Your paper"
    />
  );
  const from = paper?.onwardOnly ? page : 0;
  return (
    <div className={`mx-auto px-4 pb-16 text-lg ${pageWidths.reading}`}>
      {above?.((filled) => {
        for (const { slotId, value } of filled) change(slotId, { value }, 0);
      })}
      <header ref={top} className="sticky top-0 z-10 -mx-4 border-b border-line bg-paper px-4 pt-2 pb-2">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          <h1 className="min-w-0 truncate text-lg">{title}</h1>
          <Clock taking={taking} />
        </div>
        <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-4">
          {port.keeps && <SaveState state={taking} begun={signs.some((sign) => sign.answered)} />}
          {!paper?.sheet && slots.length > 5 && (
            <button
              type="button"
              aria-expanded={isWide}
              className="text-sm text-prussian underline roomy:hidden"
              onClick={() => setIsWide(!isWide)}
            >
              {signs.filter((sign) => sign.answered).length} of {slots.length} answered: {isWide ? 'hide' : 'show'} the
              paper
            </button>
          )}
        </div>
        {onePage && <PaperPages slots={slots} page={atEnd ? -1 : page} signs={signs} onTurn={taking.turnTo} />}
        {!paper?.sheet && (
          <div className={isWide ? 'max-h-[45dvh] overflow-y-auto' : slots.length > 5 ? 'hidden roomy:block' : ''}>
            {ruler}
          </div>
        )}
      </header>

      {!taking.hasEnded && (
        <Notices notices={notices} slots={slots} zone={taking.timeZone} from={from} onGo={taking.goTo} />
      )}
      <HowItStands taking={taking} />

      {!paper || shown.length === 0 ? (
        <p className="mt-8 text-ink-2">
          {taking.keeping.kind === 'opening' && !taking.hasEnded && !taking.shut ? 'Fetching your paper …' : ''}
        </p>
      ) : taking.hasEnded ? null : atEnd ? (
        <BeforeHandIn taking={taking} from={from} />
      ) : (
        <main className="mt-5">
          {!isEmptyRich(paper.instructions) && (
            <details className="mb-4 border border-line bg-sheet px-4 py-2">
              <summary className="text-base font-medium">Instructions</summary>
              <RichText rich={paper.instructions} className="mt-2" />
            </details>
          )}
          {paper.sheet?.document && <PaperDocument {...paper.sheet.document} />}
          {paper.sheet ? (
            <>
              <div className="mb-4">{ruler}</div>
              <AnswerSheet
                slots={shown}
                answers={taking.answers}
                heading={taking.noteHeading}
                closed={taking.closed}
                onRespond={(slotId, value, type) =>
                  change(slotId, { value }, takingOf(type).sentAtOnce ? 0 : undefined)
                }
                onComeBack={(slotId, comeBack) => change(slotId, { comeBack }, 0)}
              />
            </>
          ) : (
            <PaperQuestions taking={taking} port={port} />
          )}
          <TurnPages taking={taking} />
          <TakingKeys
            onwardOnly={paper.onwardOnly}
            onNext={taking.next}
            onPrevious={() => page > 0 && taking.turnTo(page - 1)}
          />
        </main>
      )}
      {atEnd && !taking.hasEnded && taking.leaving && <LeaveForGood taking={taking} />}
    </div>
  );
}

/** How long is left: of the attempt, or where only the hand-in is left, for that. */
function Clock({ taking }: { taking: Taking }) {
  const { standing, ahead, attempt } = taking;
  if (standing === null || taking.hasEnded) return null;
  if (standing.kind === 'grace')
    return <TimeLeft key="grace" deadline={standing.handInUntil} ahead={ahead} what=" to hand in" />;
  if (standing.kind !== 'running' && standing.kind !== 'time-over') return null;
  return <TimeLeft key="time" deadline={standing.deadline} ahead={ahead} onOver={() => attempt?.tick()} />;
}

/** What is as it should be, and needs nobody. */
function Told({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div role="status" className="mt-4 border border-line bg-sheet px-4 py-2 text-base">
      <p className="font-medium text-pine">{title}</p>
      {children}
    </div>
  );
}

/** How the attempt stands, wherever that is more than that it runs: what happened, what was kept, what to do next. */
function HowItStands({ taking }: { taking: Taking }) {
  const { standing, superseded, asides, timeZone, shut, handing, keeping } = taking;
  if (shut !== null && shut !== 'signed-out')
    return (
      <div role="alert" className="mt-4 border border-brick bg-brick-wash px-4 py-3">
        <p>{shut.said} What you have answered is kept.</p>
        <Button className="mt-2" onClick={() => location.reload()}>
          Try again
        </Button>
      </div>
    );
  if (shut)
    return (
      <div role="alert" className="mt-4 border border-brick bg-brick-wash px-4 py-3">
        <p>
          You are signed out, or somebody else is signed in on this device. Sign in again; your answers are kept on the
          server, and what was not sent yet in this browser.
        </p>
        <Button className="mt-2" onClick={() => location.assign('/sign-in')}>
          Sign in
        </Button>
      </div>
    );
  if (standing === null) return null;
  const aside = asideInShort(asides);
  const asideLine = aside && <p className="mt-1 text-base text-saffron">{aside}</p>;
  if (superseded)
    return (
      <div role="alert" className="mt-4 border border-brick bg-brick-wash px-4 py-3">
        <p>
          You have opened this exam in another window or on another device. Go on there; nothing typed here is saved any
          more.
        </p>
        {asideLine}
        <Button className="mt-2" onClick={() => location.reload()}>
          Go on here instead
        </Button>
      </div>
    );
  if (standing.kind === 'running' && handing.kind === 'done')
    return (
      <Told title="Handed in">
        <p>The server has everything. Your receipt comes as soon as it can be reached again; nothing is left to do.</p>
      </Told>
    );
  if (standing.kind === 'running') return aside ? <div role="status">{asideLine}</div> : null;
  const { title, happened, next } = standingSaid(standing, timeZone, null);
  const waits =
    standing.kind === 'time-over' && handing.kind === 'waiting'
      ? 'The server cannot be reached. What you answered is kept in this browser and is sent as soon as the connection is back: leave this page open.'
      : next;
  if (standing.kind === 'handed-in' && !('waiting' in keeping) && !aside)
    return (
      <Told title={title}>
        <p>
          {happened} {next}
        </p>
      </Told>
    );
  return (
    <div role="alert" className="mt-4 border border-saffron bg-saffron-wash px-4 py-2 text-base">
      <p className="font-medium text-saffron">{title}</p>
      <p>
        {happened} {waits}
      </p>
      {'waiting' in keeping && taking.hasEnded && (
        <p>What waits here is sent as soon as that is possible, and your instructor decides about it.</p>
      )}
      {asideLine}
    </div>
  );
}
