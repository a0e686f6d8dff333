'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { isAnswered, partProgress } from './chooseParts';
import type { Answer, TakingSlot } from './opening';
import type { TakingPort } from './takingPort';
import { useAttempt } from './useAttempt';
import { useTimeInView } from './useTimeInView';

/** Of a page with more questions than this none is marked as the current one. */
const mostCarets = 10;

/** How long to wait before a hand-in by the clock is tried again. */
const pauseBeforeRetry = 1_500;

/** Where the hand-in stands: not begun, under way, or failed with what is said of it. */
export type Handing = 'no' | 'yes' | { failed: string | null };

/**
 * Taking an exam: the attempt as it is kept, where on the paper the student is and how they walk it, what becomes of the
 * page when the time is over, and the hand-in.
 */
export function useTaking(port: TakingPort, title: string, onHandedIn: () => void) {
  const attempt = useAttempt(port);
  const { paper, answers, state, deadline, handInUntil, ahead, handIn } = attempt;
  const slots = useMemo(() => paper?.slots ?? [], [paper]);
  const [page, setPage] = useState(0);
  const [atEnd, setAtEnd] = useState(false);
  const [handing, setHanding] = useState<Handing>('no');
  /** Whether the time is over and only the hand-in is left, where there is a grace for it. */
  const [timeOver, setTimeOver] = useState(false);
  const [stuck, setStuck] = useState('');
  const endHeading = useRef<HTMLHeadingElement>(null);
  const headings = useRef(new Map<number, HTMLHeadingElement>());
  /** The question to which focus goes once its page is shown; people who hear the page follow it. */
  const wanted = useRef<number | 'end' | null>(null);
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
  const closed = state.kind === 'superseded' || state.kind === 'ended' || state.kind === 'opening' || timeOver;
  const grace = deadline !== null && handInUntil !== null && handInUntil > deadline;
  const shown = slots.filter((slot) => slot.page === page);
  const lastPage = slots.at(-1)?.page ?? 0;

  const noteHeading = (number: number, element: HTMLHeadingElement | null) => {
    if (element) headings.current.set(number, element);
    else headings.current.delete(number);
  };
  const toEnd = () => {
    wanted.current = 'end';
    setAtEnd(true);
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
  const ended = useRef(onHandedIn);
  ended.current = onHandedIn;
  useEffect(() => {
    if (state.kind === 'ended') ended.current();
  }, [state.kind]);

  const progress = partProgress(slots, paper?.choose ?? {}, answers);
  return {
    ...attempt,
    slots,
    page,
    lastPage,
    /** The questions of the page that is shown. */
    shown,
    atEnd,
    closed,
    timeOver,
    grace,
    handing,
    /** Why the way onward did not go on; empty where it did. */
    stuck,
    endHeading,
    noteHeading,
    progress,
    signs: slots.map(
      (one): QuestionSign => ({
        number: one.number,
        partTitle: one.partTitle,
        answered: isAnswered(answers[one.slotId]),
        comeBack: answers[one.slotId]?.comeBack,
        // A caret over every question of a long page, or of the only one, would tell nothing.
        current: !atEnd && lastPage > 0 && shown.length <= mostCarets && one.page === page,
      }),
    ),
    /** Why a question cannot be answered now; null when it can. */
    fullPart: (slot: TakingSlot, answer: Answer | undefined): string | null => {
      const part = progress.find((one) => one.partId === slot.partId);
      if (part?.rule.extra !== 'refused' || isAnswered(answer) || part.answered < part.rule.count) return null;
      return `You have answered ${part.answered} of ${part.rule.count} in this part. Clear one to answer this one instead.`;
    },
    goTo,
    turnTo: (to: number) => goTo(slots.find((slot) => slot.page === to)?.number ?? 1),
    onwardTo,
    toEnd,
    finish,
    /** What happens when the deadline has come. */
    whenOver: () => {
      if (!grace) return void finish(true);
      setTimeOver(true);
      toEnd();
    },
  };
}

export type Taking = ReturnType<typeof useTaking>;
