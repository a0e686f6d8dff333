'use client';
import { useRouter } from 'next/navigation';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { pointsSaid } from '@/core/base/words';
import type { AnswerHead, MarkingOrder, MarkingPage as Page, QuestionToMark } from '@/server/marking/answersToMark';
import type { SavedComment } from '@/server/marking/savedComments';
import type { MarkingCommands } from './commands';
import { useMarking } from './useMarking';

const atOnceKey = 'wuzzen.marking.at-once';
/** How many answers can be shown at a time. */
export const amounts = ['1', '3', '10', '50'] as const;
export type Amount = (typeof amounts)[number];

const kept = (key: string): string | null => {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
};
const keep = (key: string, value: string) => {
  try {
    localStorage.setItem(key, value);
  } catch {
    // A browser that keeps nothing still marks.
  }
};

/** What is walked through: one question's answers in some order, or all answers paper by paper. */
export type Walked = {
  /** The address of the marking of this sitting. */
  here: string;
  page: Page;
  by: 'question' | 'paper';
  order: MarkingOrder;
  /** Whether what is given here is a second mark, blind to the first. */
  second: boolean;
  commands: MarkingCommands;
};

/** Walking through answers and marking them: where the marker is, what is shown, what is typed, kept and saved. */
export function useMarkingWalk({ here, page, by, order, second, commands }: Walked) {
  const router = useRouter();
  const marking = useMarking(page, commands, second);
  const { heads } = page;
  const { points, bodies, bring } = marking;
  const firstWaiting = (from: number, given = points) => {
    const after = heads.findIndex((head, i) => i >= from && given[head.slotId] === null);
    return after >= 0 ? after : heads.findIndex((head) => given[head.slotId] === null);
  };
  // Kept by the answer and not by its place: answers that come meanwhile move nobody.
  const [atSlot, setAtSlot] = useState(() => heads[Math.max(0, firstWaiting(0))]?.slotId);
  const at = Math.max(
    0,
    heads.findIndex((head) => head.slotId === atSlot),
  );
  const [atOnce, setAtOnce] = useState<Amount>('1');
  const [comments, setComments] = useState<Record<string, SavedComment[]>>({});
  /** Said to people who hear the page: what was saved, and what stands there now. */
  const [saved, setSaved] = useState('');
  const cards = useRef<HTMLDivElement>(null);
  const placeKey = `wuzzen.marking.at.${second ? 'second.' : ''}${here}${by === 'question' ? `/${heads[0]?.questionId}/${order}` : ''}`;

  // biome-ignore lint/correctness/useExhaustiveDependencies: the place is looked up once, when the page opens
  useEffect(() => {
    const amount = kept(atOnceKey);
    if (amounts.includes(amount as Amount)) setAtOnce(amount as Amount);
    const place = heads.findIndex((head) => head.slotId === kept(placeKey));
    // Where all is marked, or the place still waits, one goes on exactly there.
    if (place >= 0 && (heads[place]?.points === null || heads.every((head) => head.points !== null)))
      setAtSlot(heads[place]?.slotId);
  }, []);

  const shown = (() => {
    if (by === 'paper') return heads.filter((head) => head.paper === heads[at]?.paper);
    const size = Number(atOnce);
    const from = size === 1 ? at : Math.floor(at / size) * size;
    return heads.slice(from, from + size);
  })();
  const firstShown = shown[0] ? heads.indexOf(shown[0]) : 0;
  const current = heads[at] as AnswerHead;

  // What is shown, and what comes next, is there before it is walked to.
  useEffect(() => {
    void bring([...shown, ...heads.slice(firstShown + shown.length, firstShown + shown.length + 20)]);
  });
  const isThere = Boolean(bodies[current.slotId]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the place to type takes the focus with each answer
  useEffect(() => {
    if (!isThere) return;
    const card = [...(cards.current?.children ?? [])].find((one) => one.getAttribute('data-card') === current.slotId);
    const rubric = card?.querySelector<HTMLInputElement>('input[type=radio]:checked, input[type=radio]');
    (rubric ?? card?.querySelector<HTMLInputElement>('input[data-points]'))?.focus({
      preventScroll: shown.length === 1,
    });
  }, [atSlot, isThere]);

  const show = (to: number) => {
    const head = heads[to];
    if (!head) return;
    setAtSlot(head.slotId);
    keep(placeKey, head.slotId);
  };
  const questionById = (questionId: string) =>
    page.questions.find((one) => one.questionId === questionId) as QuestionToMark;
  const commentsOf = (questionId: string) => comments[questionId] ?? questionById(questionId).comments;
  const questionOf = ({ questionId }: AnswerHead): QuestionToMark => ({
    ...questionById(questionId),
    comments: commentsOf(questionId),
  });
  const save = (index: number) => {
    const head = heads[index];
    const body = head && bodies[head.slotId];
    const going = body && marking.save(body, questionOf(head).rubric);
    if (!head || !going) return;
    const next = firstWaiting(index + 1, { ...points, [head.slotId]: going.value });
    if (next >= 0) show(next);
    void going.saved.then((isSaved) => {
      setSaved(isSaved ? `${pointsSaid(going.value)} for answer ${head.number} saved.` : '');
      if (isSaved) router.refresh();
    });
  };
  const indexAround = (target: EventTarget): number => {
    const slotId = (target as HTMLElement).closest('[data-card]')?.getAttribute('data-card');
    const found = heads.findIndex((head) => head.slotId === slotId);
    return found >= 0 ? found : at;
  };
  const onKey = (event: KeyboardEvent) => {
    const target = event.target as HTMLElement;
    if (event.altKey && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
      event.preventDefault();
      show(indexAround(target) + (event.key === 'ArrowDown' ? 1 : -1));
    } else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey || target.tagName === 'INPUT')) {
      event.preventDefault();
      save(indexAround(target));
    }
  };
  const waiting = heads.filter((head) => points[head.slotId] === null).length;
  const signs = heads.map(
    (head, i): QuestionSign => ({
      number: head.number,
      partTitle: by === 'paper' ? `Paper ${head.paper}` : '',
      answered: true,
      awaitsMark: points[head.slotId] === null,
      current: i === at,
    }),
  );
  const setCommentsOf = (questionId: string, next: SavedComment[]) =>
    setComments((before) => ({ ...before, [questionId]: next }));
  return {
    marking,
    heads,
    bodies,
    at,
    current,
    shown,
    firstShown,
    cards,
    saved,
    atOnce,
    setAtOnce: (amount: Amount) => {
      setAtOnce(amount);
      keep(atOnceKey, amount);
    },
    waiting,
    signs,
    show,
    save,
    onKey,
    questionOf,
    keepComment: (questionId: string, text: string) =>
      void commands.keepComment(questionId, text).then((answer) => {
        if (!answer.ok) return;
        const own = commentsOf(questionId);
        setCommentsOf(questionId, [answer.value, ...own.filter((one) => one.id !== answer.value.id)]);
      }),
    dropComment: (questionId: string, id: string) =>
      void commands.dropComment(id).then((answer) => {
        if (answer.ok)
          setCommentsOf(
            questionId,
            commentsOf(questionId).filter((one) => one.id !== id),
          );
      }),
  };
}

export type MarkingWalk = ReturnType<typeof useMarkingWalk>;
