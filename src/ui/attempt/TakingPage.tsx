'use client';
import { type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { longestRuler, type QuestionSign } from '@/core/attempt/paperRuler';
import { isEmptyRich } from '@/core/base/rich';
import { Button } from '../kit/Button';
import { PaperDocument } from '../kit/PaperDocument';
import { PaperRuler } from '../kit/PaperRuler';
import { RichText } from '../kit/RichText';
import { TextButton } from '../kit/TextButton';
import { FileLink } from '../kit/TextLink';
import { takingOf } from '../question/players';
import { AnswerSheet } from './AnswerSheet';
import { BeforeHandIn } from './BeforeHandIn';
import { chooseSaid, isAnswered, partProgress } from './chooseParts';
import { Notices } from './Notices';
import type { Answer, TakingSlot } from './opening';
import { PaperPages } from './PaperPages';
import { SaveState } from './SaveState';
import { TakingQuestion } from './TakingQuestion';
import { TimeLeft } from './TimeLeft';
import type { TakingPort } from './takingPort';
import { useAttempt } from './useAttempt';
import { useTimeInView } from './useTimeInView';

/** Of a page with more questions than this none is marked as the current one. */
const mostCarets = 10;

/** How long to wait before a hand-in by the clock is tried again. */
const pauseBeforeRetry = 1_500;

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
  const attempt = useAttempt(port);
  const { paper, answers, state, deadline, handInUntil, notices, ahead, change, show, handIn } = attempt;
  const slots = useMemo(() => paper?.slots ?? [], [paper]);
  const [page, setPage] = useState(0);
  const [atEnd, setAtEnd] = useState(false);
  const [handing, setHanding] = useState<'no' | 'yes' | { failed: string | null }>('no');
  const endHeading = useRef<HTMLHeadingElement>(null);
  const headings = useRef(new Map<number, HTMLHeadingElement>());
  /** The question to which focus goes once its page is shown; people who hear the page follow it. */
  const wanted = useRef<number | 'end' | null>(null);
  /** Whether the time is over and only the hand-in is left, where there is a grace for it. */
  const [timeOver, setTimeOver] = useState(false);
  const [stuck, setStuck] = useState('');
  const isOpen = paper !== null;
  // Whoever hears the page, or uses it by keyboard, begins at the first question.
  const reached = paper?.onwardOnly ? paper.reached : 0;
  const begun = useRef(false);
  useEffect(() => {
    if (!isOpen || begun.current) return;
    begun.current = true;
    // Where there is no way back, the student goes on where they were.
    if (reached > 0) setPage(reached);
    headings.current.get(1)?.focus({ preventScroll: true });
  }, [isOpen, reached]);
  // More time after all: answers are taken again.
  useEffect(() => {
    if (deadline === null || deadline > Date.now() + ahead) setTimeOver(false);
  }, [deadline, ahead]);
  useEffect(() => {
    document.title = `${title} · Wuzzen`;
  }, [title]);
  // What is scrolled to, or gets the focus, stands below the header that stays.
  const top = useRef<HTMLElement>(null);
  useEffect(() => {
    const { style } = document.documentElement;
    style.scrollPaddingTop = `${(top.current?.offsetHeight ?? 0) + 8}px`;
    return () => {
      style.scrollPaddingTop = '';
    };
  });
  const closed = state.kind === 'superseded' || state.kind === 'ended' || state.kind === 'opening' || timeOver;
  const grace = deadline !== null && handInUntil !== null && handInUntil > deadline;
  const shown = slots.filter((slot) => slot.page === page);
  const lastPage = slots.at(-1)?.page ?? 0;

  const noteHeading = (number: number, element: HTMLHeadingElement | null) => {
    if (element) headings.current.set(number, element);
    else headings.current.delete(number);
  };
  const goTo = (number: number) => {
    const to = slots[Math.min(Math.max(number - 1, 0), slots.length - 1)]?.page ?? 0;
    if (paper?.onwardOnly && to !== page) {
      if (to > page) void onwardTo(to);
      return;
    }
    if (to === page && !atEnd) {
      headings.current.get(number)?.focus();
      return;
    }
    wanted.current = number;
    setAtEnd(false);
    setPage(to);
  };
  /** Leaves pages for good, once the server has noted it. */
  const onwardTo = async (to: number | 'end') => {
    setStuck('');
    const target = to === 'end' ? lastPage + 1 : to;
    if (!(await attempt.onward(target)))
      return setStuck('The server could not be reached: you are still here. Try again.');
    if (to === 'end') return toEnd();
    wanted.current = slots.find((slot) => slot.page === to)?.number ?? null;
    setAtEnd(false);
    setPage(to);
  };
  const turnTo = (to: number) => goTo(slots.find((slot) => slot.page === to)?.number ?? 1);
  const toEnd = () => {
    wanted.current = 'end';
    setAtEnd(true);
  };
  useEffect(() => {
    const target = wanted.current;
    wanted.current = null;
    if (target === 'end') endHeading.current?.focus();
    else if (target !== null) headings.current.get(target)?.focus();
  });

  const alone = atEnd || closed || shown.length !== 1 || paper?.anonymous ? null : (shown[0]?.slotId ?? null);
  const timesInView = useTimeInView(alone);
  const finish = async (byClock: boolean): Promise<void> => {
    setHanding('yes');
    const handed = await handIn(timesInView());
    if (handed.ok) return onHandedIn();
    setHanding({ failed: handed.message });
    if (byClock) setTimeout(() => void finish(true), pauseBeforeRetry);
  };
  const whenOver = () => {
    if (!grace) return void finish(true);
    setTimeOver(true);
    toEnd();
  };
  const ended = useRef(onHandedIn);
  ended.current = onHandedIn;
  useEffect(() => {
    if (state.kind === 'ended') ended.current();
  }, [state.kind]);

  const signs: QuestionSign[] = slots.map((one) => ({
    number: one.number,
    partTitle: one.partTitle,
    answered: isAnswered(answers[one.slotId]),
    comeBack: answers[one.slotId]?.comeBack,
    // A caret over every question of a long page, or of the only one, would tell nothing.
    current: !atEnd && lastPage > 0 && shown.length <= mostCarets && one.page === page,
  }));
  const progress = partProgress(slots, paper?.choose ?? {}, answers);
  /** Why a question cannot be answered now; null when it can. */
  const fullPart = (slot: TakingSlot, answer: Answer | undefined): string | null => {
    const part = progress.find((one) => one.partId === slot.partId);
    if (part?.rule.extra !== 'refused' || isAnswered(answer) || part.answered < part.rule.count) return null;
    return `You have answered ${part.answered} of ${part.rule.count} in this part. Clear one to answer this one instead.`;
  };

  const onePage = slots.length > longestRuler;
  const ruler = (
    <PaperRuler
      signs={
        onePage ? signs.filter((_, i) => slots[i]?.page === page).map((sign) => ({ ...sign, current: false })) : signs
      }
      onPick={goTo}
      label="Your paper"
    />
  );

  return (
    <div className="mx-auto max-w-[760px] px-4 pb-16 text-lg">
      {above?.((filled) => {
        for (const { slotId, value } of filled) change(slotId, { value }, 0);
      })}
      <header ref={top} className="sticky top-0 z-10 -mx-4 border-b border-line bg-paper px-4 pt-2 pb-2">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          <h1 className="text-lg">{title}</h1>
          {timeOver && grace ? (
            <TimeLeft deadline={handInUntil} ahead={ahead} what=" to hand in" onOver={() => undefined} />
          ) : (
            <TimeLeft deadline={deadline} ahead={ahead} onOver={whenOver} />
          )}
        </div>
        <div className="mt-1 mb-2">
          {port.keeps && <SaveState state={state} begun={signs.some((sign) => sign.answered)} />}
        </div>
        {onePage && <PaperPages slots={slots} page={atEnd ? -1 : page} signs={signs} onTurn={turnTo} />}
        {!paper?.sheet && ruler}
      </header>

      <Notices notices={notices} />
      {timeOver && grace && (
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
          heading={endHeading}
          signs={signs}
          slots={slots}
          progress={progress}
          anonymous={paper.anonymous}
          from={paper.onwardOnly ? page : 0}
          onGo={goTo}
          onHandIn={() => void finish(false)}
          handing={handing}
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
          {paper.sheet && (
            <>
              <div className="mb-4">{ruler}</div>
              <AnswerSheet
                slots={shown}
                answers={answers}
                heading={noteHeading}
                closed={closed}
                onRespond={(slotId, value, type) =>
                  change(slotId, { value }, takingOf(type).sentAtOnce ? 0 : undefined)
                }
                onComeBack={(slotId, comeBack) => change(slotId, { comeBack }, 0)}
              />
            </>
          )}
          {(paper.sheet ? [] : shown).map((slot, i) => {
            const before = shown[i - 1];
            const rule = paper.choose[slot.partId];
            const passage = slot.passage && slot.passage !== before?.passage ? paper.passages[slot.passage] : undefined;
            return (
              <div key={slot.slotId} className={i > 0 ? 'mt-5' : ''}>
                {before && before.partId !== slot.partId && <h2 className="mb-2 text-xl">{slot.partTitle}</h2>}
                {rule && before?.partId !== slot.partId && (
                  <p className="mb-2 text-base">
                    {chooseSaid(
                      rule,
                      progress.find((one) => one.partId === slot.partId),
                    )}
                  </p>
                )}
                {passage && (
                  <details open className="mb-3 border border-line bg-sheet px-4 py-3 sm:px-6">
                    <summary className="text-base font-medium">{passageSaid(slots, slot.passage)}</summary>
                    <div className="mt-2 max-h-[45dvh] overflow-y-auto">
                      <RichText rich={passage} />
                    </div>
                  </details>
                )}
                <TakingQuestion
                  slot={slot}
                  count={slots.length}
                  answer={answers[slot.slotId]}
                  heading={(element) => noteHeading(slot.number, element)}
                  closed={closed}
                  ahead={ahead}
                  whyNot={fullPart(slot, answers[slot.slotId])}
                  files={port.files(slot.slotId, fileLink)}
                  onOpen={() => show(slot.slotId)}
                  onRespond={(value, type) => change(slot.slotId, { value }, takingOf(type).sentAtOnce ? 0 : undefined)}
                  onComeBack={(comeBack) => change(slot.slotId, { comeBack }, 0)}
                  notices={notices}
                  onCheck={() => attempt.check(slot.slotId)}
                  onAgain={() => attempt.again(slot.slotId)}
                  onReport={port.report && ((text) => port.report?.(slot.slotId, text) ?? Promise.resolve(null))}
                />
              </div>
            );
          })}
          <div className="mt-4 flex flex-wrap items-center justify-between gap-2 text-base">
            <Button
              onClick={() => turnTo(page - 1)}
              whyNot={
                paper.onwardOnly
                  ? 'There is no way back in this exam.'
                  : page > 0
                    ? null
                    : lastPage === slots.length - 1 && !paper.sheet
                      ? 'This is the first question.'
                      : 'This is the first page.'
              }
            >
              Previous
            </Button>
            {page < lastPage ? (
              <Button look="main" onClick={() => (paper.onwardOnly ? void onwardTo(page + 1) : turnTo(page + 1))}>
                {paper.onwardOnly ? 'Go on: no way back' : 'Next'}
              </Button>
            ) : (
              <Button look="main" onClick={toEnd}>
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
              <TextButton onClick={toEnd}>I am finished: to the hand-in</TextButton>
            </p>
          )}
        </main>
      )}
    </div>
  );
}

/** How a file for an answer is looked at again. */
const fileLink = (id: string, name: string) => (
  <FileLink href={`/answer-files/${id}`} download>
    {name}
  </FileLink>
);

/** Which questions of the paper a passage belongs to. */
function passageSaid(slots: readonly { number: number; passage: string | null }[], id: string | null): string {
  const numbers = slots.filter((slot) => slot.passage === id).map((slot) => slot.number);
  if (numbers.length === 1) return `For question ${numbers[0]}`;
  return `For questions ${numbers.slice(0, -1).join(', ')} and ${numbers[numbers.length - 1]}`;
}
