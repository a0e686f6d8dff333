'use client';
import { type ReactNode, useEffect, useRef } from 'react';
import { longestRuler } from '@/core/attempt/paperRuler';
import { isEmptyRich } from '@/core/base/rich';
import { Button } from '../kit/Button';
import { PaperDocument } from '../kit/PaperDocument';
import { PaperRuler } from '../kit/PaperRuler';
import { RichText } from '../kit/RichText';
import { takingOf } from '../question/players';
import { AnswerSheet } from './AnswerSheet';
import { BeforeHandIn } from './BeforeHandIn';
import { Notices } from './Notices';
import { PaperPages } from './PaperPages';
import { PaperQuestions } from './PaperQuestions';
import { SaveState } from './SaveState';
import { TimeLeft } from './TimeLeft';
import { TurnPages } from './TurnPages';
import type { TakingPort } from './takingPort';
import { useTaking } from './useTaking';

type Fill = (answers: { slotId: string; value: unknown }[]) => void;

type Props = {
  port: TakingPort;
  title: string;
  /** Called once the server has taken the hand-in, or the attempt turns out to have ended. */
  onHandedIn: () => void;
  /** What stands above everything else, where the page is more than an exam. */
  above?: (fill: Fill) => ReactNode;
};

/** The exam as a student takes it: fetches the paper, then shows a page of it, the ruler, the time left, the save state. */
export function TakingPage({ port, title, onHandedIn, above }: Props) {
  const taking = useTaking(port, title, onHandedIn);
  const { paper, slots, page, shown, atEnd, signs, state, deadline, handInUntil, notices, ahead, change } = taking;
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
  const onlyHandIn = taking.timeOver && taking.grace;
  return (
    <div className="mx-auto max-w-[760px] px-4 pb-16 text-lg">
      {above?.((filled) => {
        for (const { slotId, value } of filled) change(slotId, { value }, 0);
      })}
      <header ref={top} className="sticky top-0 z-10 -mx-4 border-b border-line bg-paper px-4 pt-2 pb-2">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          <h1 className="text-lg">{title}</h1>
          {onlyHandIn ? (
            <TimeLeft deadline={handInUntil} ahead={ahead} what=" to hand in" onOver={() => undefined} />
          ) : (
            <TimeLeft deadline={deadline} ahead={ahead} onOver={taking.whenOver} />
          )}
        </div>
        <div className="mt-1 mb-2">
          {port.keeps && <SaveState state={state} begun={signs.some((sign) => sign.answered)} />}
        </div>
        {onePage && <PaperPages slots={slots} page={atEnd ? -1 : page} signs={signs} onTurn={taking.turnTo} />}
        {!paper?.sheet && ruler}
      </header>

      <Notices notices={notices} />
      {onlyHandIn && (
        <p role="alert" className="mt-3 border border-saffron bg-saffron-wash px-4 py-2 text-base text-saffron">
          The time is over: nothing more can be entered. Your answers count only if you hand in now.
        </p>
      )}
      {state.kind === 'superseded' && (
        <div role="alert" className="mt-4 border border-brick bg-brick-wash px-4 py-3">
          <p>
            You have opened this exam in another window or on another device. Go on there; nothing typed here is saved
            any more.
          </p>
          <Button className="mt-2" onClick={() => location.reload()}>
            Go on here instead
          </Button>
        </div>
      )}

      {!paper || shown.length === 0 ? (
        <p className="mt-8 text-ink-2">{state.kind === 'opening' ? 'Fetching your paper …' : ''}</p>
      ) : atEnd ? (
        <BeforeHandIn
          heading={taking.endHeading}
          signs={signs}
          slots={slots}
          progress={taking.progress}
          anonymous={paper.anonymous}
          from={paper.onwardOnly ? page : 0}
          onGo={taking.goTo}
          onHandIn={() => void taking.finish(false)}
          handing={taking.handing}
          waiting={state.kind === 'offline'}
        />
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
        </main>
      )}
    </div>
  );
}
