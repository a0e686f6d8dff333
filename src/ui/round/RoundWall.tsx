'use client';
import { useEffect, useState } from 'react';
import { doorCodeShown } from '@/core/round/doorCode';
import type { Wall, WallQuestion } from '@/server/round/wall';
import { RichText } from '../kit/RichText';
import { ScanCode } from '../kit/ScanCode';
import { TextButton } from '../kit/TextButton';
import { useStream } from '../kit/useStream';
import { takingOf } from '../question/players';
import { QuestionShown } from '../question/QuestionShown';
import { Bars, MovementSaid } from './Bars';
import { TimeLine } from './TimeLine';

type Props = { live: string; origin: string; begun: Wall };

/** The wall: what a projector shows a class. It is read from ten metres away, and leads nobody anywhere. */
export function RoundWall({ live, origin, begun }: Props) {
  const [wall, setWall] = useState(begun);
  const line = useStream<Wall>(live, setWall);
  return (
    <main className="flex min-h-dvh flex-col bg-sheet px-[3vw] py-[2.5vh] text-[2.6vmin] leading-snug text-ink">
      <header className="mb-[2vh] flex items-baseline justify-between gap-6 border-b border-line pb-[1vh] text-ink-2">
        <p>
          {wall.courseName} · {wall.title}
        </p>
        <p className="flex items-baseline gap-4 tabular-nums">
          {line.kind === 'broken' && <span className="text-brick">no connection</span>}
          {wall.question && wall.door && !wall.stopped && (
            <span>
              {host(origin)}/in <span className="font-mono text-ink">{doorCodeShown(wall.door)}</span>
            </span>
          )}
          <span>{wall.cameIn} in</span>
          <FullScreen />
        </p>
      </header>
      {wall.question ? (
        <Question question={wall.question} wall={wall} />
      ) : wall.stopped ? (
        <p className="m-auto font-serif text-[6vmin]">Stopped. Thank you.</p>
      ) : (
        <Door wall={wall} origin={origin} />
      )}
    </main>
  );
}

const host = (origin: string): string => origin.replace(/^https?:\/\//, '');

/** How one comes in, while nothing else is shown. */
function Door({ wall, origin }: { wall: Wall; origin: string }) {
  const code = wall.door ?? '';
  return (
    <div className="m-auto grid grid-cols-[auto_auto] items-center gap-x-[6vw]">
      <ScanCode text={`${origin}/in?code=${code}`} className="size-[52vmin]" />
      <div>
        <h1 className="font-serif text-[5vmin]">Come in</h1>
        <p className="mt-[1vh]">Read the code with your camera, or go to</p>
        <p className="text-[4.5vmin] font-medium break-all">{host(origin)}/in</p>
        <p className="mt-[2vh]">and type</p>
        <p className="font-mono text-[13vmin] leading-none font-medium tracking-wide whitespace-nowrap">
          {doorCodeShown(code)}
        </p>
        <p className="mt-[3vh] text-[4vmin] tabular-nums" role="status">
          {wall.cameIn} {wall.cameIn === 1 ? 'is' : 'are'} in
          {wall.pace === 'own' && wall.cameIn > 0 && `, ${wall.handedIn} handed in`}
        </p>
        {wall.madeUp > 0 && <p className="text-saffron">{wall.madeUp} of them made up</p>}
      </div>
    </div>
  );
}

/**
 * As large as it fits, so that it is read from ten metres away: of a projection one and a half metres high, letters of a
 * twenty-fourth of its height are six centimetres high, twice what a reader with full sight needs at that distance.
 */
function sizeFor(view: WallQuestion['view'], isBeside: boolean): string {
  const characters = JSON.stringify(view).length;
  const [few, many] = isBeside ? [900, 2_000] : [1_200, 3_000];
  return characters < few ? 'text-[4.4vmin]' : characters < many ? 'text-[3.6vmin]' : 'text-[2.8vmin]';
}

/** The question; once it is closed, how the class answered beside it. */
function Question({ question, wall }: { question: WallQuestion; wall: Wall }) {
  const { phase, view, bars } = question;
  const isSeen = bars.length > 0;
  const hasChoices = bars[0]?.bars.some((bar) => bar.rich !== null) ?? false;
  return (
    <>
      <div className="mb-[1.5vh] flex items-baseline justify-between gap-6 text-[3.4vmin] text-ink-2">
        <p>
          Question {question.number}
          {wall.count > 0 && ` of ${wall.count}`}
          {question.vote > 1 && phase === 'open' && ', asked again'}
        </p>
        <p className="text-[5.4vmin] leading-none text-ink tabular-nums" role="status">
          {question.answered} of {question.asked}
          <span className="text-[3.4vmin] text-ink-2"> answered</span>
        </p>
      </div>
      {phase === 'open' && (
        <div className="mb-[1.5vh]">
          <TimeLine openedAt={question.openedAt} endsAt={question.endsAt} now={wall.now} large />
        </div>
      )}
      <div className={isSeen ? 'grid min-h-0 flex-1 grid-cols-[2fr_3fr] gap-x-[3vw]' : 'flex-1'}>
        <div className={`min-w-0 leading-snug [&_*]:text-[length:inherit] ${sizeFor(view, isSeen)}`}>
          {question.passage && <RichText rich={question.passage} className="mb-[2vh] border-l-2 border-line pl-3" />}
          {isSeen && hasChoices && !takingOf(view.type).showsStem ? (
            <RichText rich={view.stem} className="font-serif" />
          ) : (
            <QuestionShown view={view} />
          )}
        </div>
        {isSeen && (
          <div className="min-w-0 space-y-[2vh]">
            <Bars votes={bars} large />
            {question.movement && <MovementSaid movement={question.movement} large />}
            {question.right !== '' && !hasChoices && (
              <p className="text-[4.4vmin] font-medium text-pine">Right is: {question.right}</p>
            )}
          </div>
        )}
      </div>
    </>
  );
}

/** Full screen, where the browser can do it. */
function FullScreen() {
  const [isFull, setIsFull] = useState(false);
  const [can, setCan] = useState(false);
  useEffect(() => {
    setCan(document.fullscreenEnabled);
    const note = () => setIsFull(document.fullscreenElement !== null);
    document.addEventListener('fullscreenchange', note);
    return () => document.removeEventListener('fullscreenchange', note);
  }, []);
  if (!can || isFull) return null;
  return (
    <TextButton className="text-[2vmin]" onClick={() => void document.documentElement.requestFullscreen()}>
      Full screen
    </TextButton>
  );
}
