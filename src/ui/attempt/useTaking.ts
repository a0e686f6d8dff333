'use client';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { owedSaid, type WhyNotAnswer, whyNotAnswerSaid } from '@/core/attempt/mayAnswer';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { takingOf } from '../question/players';
import { pauseBeforeRetry, unreached } from './attemptPage';
import { isAnswered, partProgress } from './chooseParts';
import type { Answer, TakingSlot } from './opening';
import { forgetPlace, keepPlace, keptPlace } from './place';
import type { TakingPort } from './takingPort';
import { useAttempt } from './useAttempt';
import { useTimeInView } from './useTimeInView';

/** Of a page with more questions than this none is marked as the current one. */
const mostCarets = 10;

/** What is asked before pages are left for good: where to, and which questions stay behind, and which of them are empty. */
export type Leaving = { to: number | 'end'; behind: number[]; empty: number[] };

/**
 * Taking an exam: the attempt as it is kept, where on the paper the student is and how they walk it, what becomes of the
 * page when the time is over, and the hand-in.
 *
 * @param onEnded called once the attempt has ended and nothing waits here to be sent
 */
export function useTaking(port: TakingPort, title: string, onEnded: () => void) {
  const { state, attempt } = useAttempt(port);
  const { paper, answers, standing, superseded, keeping, handing } = state;
  const slots = useMemo(() => paper?.slots ?? [], [paper]);
  const [page, setPage] = useState(0);
  const [atEnd, setAtEnd] = useState(false);
  const [stuck, setStuck] = useState('');
  const [leaving, setLeaving] = useState<Leaving | null>(null);
  const endHeading = useRef<HTMLHeadingElement>(null);
  const headings = useRef(new Map<number, HTMLHeadingElement>());
  /** The question to which focus goes once its page is shown; people who hear the page follow it. */
  const wanted = useRef<number | 'end' | null>(null);
  const isOpen = paper !== null;
  const reached = paper?.onwardOnly ? paper.reached : 0;
  const lastPage = slots.at(-1)?.page ?? 0;
  const pageOf = (number: number) => slots[Math.min(Math.max(number - 1, 0), slots.length - 1)]?.page ?? 0;
  const begun = useRef(false);
  // Before anything is seen: another question would flash up on the way.
  useLayoutEffect(() => {
    if (!isOpen || begun.current) return;
    begun.current = true;
    // A student goes on where they were: in this browser, else where the last answer was given.
    const place = Math.min(keptPlace(port) ?? state.place, slots.length);
    const first = paper?.onwardOnly ? slots.find((slot) => slot.page >= reached)?.number : place;
    if (first === undefined && slots.length) setAtEnd(true);
    else {
      setPage(pageOf(first ?? 1));
      wanted.current = first ?? 1;
    }
  });
  useEffect(() => {
    document.title = `${title} · Wuzzen`;
  }, [title]);
  const closed = attempt?.isClosed() ?? true;
  const isGrace = standing?.kind === 'grace';
  const shown = slots.filter((slot) => slot.page === page);
  const firstShown = shown[0]?.number;
  useEffect(() => {
    if (firstShown !== undefined) keepPlace(port, firstShown);
  }, [port, firstShown]);

  const noteHeading = (number: number, element: HTMLHeadingElement | null) => {
    if (element) headings.current.set(number, element);
    else headings.current.delete(number);
  };
  const toEnd = () => {
    wanted.current = 'end';
    setLeaving(null);
    setAtEnd(true);
  };
  // Whatever the student was at, in a grace nothing is left but to hand in.
  const graceSeen = useRef(false);
  useEffect(() => {
    if (isGrace && !graceSeen.current) {
      wanted.current = 'end';
      setLeaving(null);
      setAtEnd(true);
    }
    graceSeen.current = isGrace;
  }, [isGrace]);

  // That the server could not be reached is no longer so once it has taken what waited here.
  useEffect(() => {
    if (keeping.kind === 'saved') setStuck((said) => (said === unreached ? '' : said));
  }, [keeping]);

  /** Leaves pages for good, once the server has noted it. */
  const onwardTo = async (to: number | 'end') => {
    setStuck('');
    setLeaving(null);
    const wrong = await attempt?.onward(to === 'end' ? lastPage + 1 : to);
    if (wrong) return setStuck(wrong);
    if (to === 'end') return toEnd();
    wanted.current = slots.find((slot) => slot.page === to)?.number ?? null;
    setAtEnd(false);
    setPage(to);
  };
  /** Asks where anything stays behind that was not answered, or not even seen; what is owed holds it up. */
  const askOnward = (to: number | 'end') => {
    const target = to === 'end' ? lastPage + 1 : to;
    const owed = attempt?.owed(target) ?? [];
    // What held up an earlier touch is not what is asked now, and the other way round.
    setLeaving(null);
    setStuck(owed.length ? owedSaid(owed, 'you go on') : '');
    if (owed.length) return;
    const behind = slots.filter((slot) => slot.page >= page && slot.page < target);
    const empty = behind.filter((slot) => !isAnswered(answers[slot.slotId]) && mayStill(slot));
    const skips = behind.some((slot) => slot.page !== page);
    if (!skips && empty.length === 0) return void onwardTo(to);
    const numbers = (some: readonly TakingSlot[]) => some.map((slot) => slot.number);
    setLeaving({ to, behind: numbers(behind), empty: numbers(empty) });
  };
  const mayStill = (slot: TakingSlot): boolean => {
    const why = attempt?.whyNot(slot.slotId) ?? null;
    return why === null || why === 'not-opened';
  };
  const goTo = (number: number) => {
    const to = pageOf(number);
    setStuck('');
    // A hand-in that waits for the connection is called off by whoever goes back to write.
    attempt?.dropHandIn();
    if (paper?.onwardOnly && to !== page) {
      if (to > page) askOnward(to);
      return;
    }
    setLeaving(null);
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
    const element = target === 'end' ? endHeading.current : target === null ? null : headings.current.get(target);
    if (!element) return;
    wanted.current = null;
    element.focus({ preventScroll: target === 1 });
  });

  const alone = atEnd || closed || shown.length !== 1 || paper?.anonymous ? null : (shown[0]?.slotId ?? null);
  const timesInView = useTimeInView(alone);
  useEffect(() => attempt?.measure(timesInView), [attempt, timesInView]);
  const hasEnded =
    standing?.kind === 'handed-in' ||
    standing?.kind === 'not-handed-in' ||
    standing?.kind === 'voided' ||
    handing.kind === 'done';
  const nothingWaits =
    !('waiting' in keeping) && keeping.kind !== 'saving' && handing.kind !== 'waiting' && handing.kind !== 'under-way';
  const ended = useRef(onEnded);
  ended.current = onEnded;
  useEffect(() => {
    if (!hasEnded || !nothingWaits) return;
    forgetPlace(port);
    let timer: ReturnType<typeof setTimeout> | undefined;
    let isGone = false;
    // Another page that is asked for without a connection is the browser's word that there is none: until the server
    // answers, this one says how the attempt stands.
    const goOn = async () => {
      const isThere = port.pulse === null || (await attempt?.beat());
      if (isGone) return;
      if (isThere) ended.current();
      else timer = setTimeout(goOn, pauseBeforeRetry);
    };
    void goOn();
    return () => {
      isGone = true;
      clearTimeout(timer);
    };
  }, [port, attempt, hasEnded, nothingWaits]);

  const progress = partProgress(slots, paper?.choose ?? {}, answers);
  const corrected = new Set(state.notices.flatMap((notice) => notice.slotId ?? []));
  return {
    ...state,
    attempt,
    slots,
    page,
    lastPage,
    reached,
    /** The questions of the page that is shown. */
    shown,
    atEnd,
    closed,
    isGrace,
    hasEnded,
    superseded,
    /** Why the way onward did not go on; empty where it did. */
    stuck,
    leaving,
    endHeading,
    noteHeading,
    progress,
    signs: slots.map(
      (one): QuestionSign => ({
        number: one.number,
        partTitle: one.partTitle,
        answered: isAnswered(answers[one.slotId]),
        comeBack: answers[one.slotId]?.comeBack,
        corrected: corrected.has(one.slotId),
        // A caret over every question of a long page, or of the only one, would tell nothing.
        current: !atEnd && lastPage > 0 && shown.length <= mostCarets && one.page === page,
      }),
    ),
    /** The numbers of the questions that are begun and not complete. */
    begunOnly: slots.filter((slot) => isBegunOnly(slot, answers[slot.slotId])).map((slot) => slot.number),
    /** Why a question cannot be answered now, in words; null when it can, or where its page says so anyway. */
    whyNot: (slot: TakingSlot): { why: WhyNotAnswer; said: string } | null => {
      const why = attempt?.whyNot(slot.slotId) ?? null;
      if (why === null) return null;
      const part = why === 'beyond-choose' ? progress.find((one) => one.partId === slot.partId) : undefined;
      const said = part
        ? `You have answered ${part.answered} of ${part.rule.count} in this part. Clear one to answer this one instead.`
        : whyNotAnswerSaid[why];
      return { why, said };
    },
    /** The numbers of the questions that have to be answered before the hand-in. */
    owed: attempt?.owed('hand-in') ?? [],
    change: (slotId: string, part: Partial<Answer>, pause?: number) => attempt?.change(slotId, part, pause),
    goTo,
    turnTo: (to: number) => goTo(slots.find((slot) => slot.page === to)?.number ?? 1),
    /** To the next page, or to the hand-in behind the last. */
    next: () => {
      if (page >= lastPage) return toEnd();
      if (paper?.onwardOnly) return askOnward(page + 1);
      goTo(slots.find((slot) => slot.page === page + 1)?.number ?? 1);
    },
    onwardTo,
    stay: () => setLeaving(null),
    toEnd,
    handIn: () => void attempt?.pressHandIn(timesInView),
  };
}

/** Whether something stands in a question of several fields, and some of its fields are empty. */
function isBegunOnly({ view }: TakingSlot, answer: Answer | undefined): boolean {
  if (!view || !isAnswered(answer)) return false;
  return (takingOf(view.type).left?.(view, answer?.value as never) ?? 0) > 0;
}

export type Taking = ReturnType<typeof useTaking>;
