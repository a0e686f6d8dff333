'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { longestRuler, type QuestionSign } from '@/core/attempt/paperRuler';
import { counted, pointsSaid } from '@/core/base/words';
import type { AnswerHead, MarkingOrder, MarkingPage as Page, QuestionToMark } from '@/server/marking/answersToMark';
import type { SavedComment } from '@/server/marking/savedComments';
import { Button } from '../kit/Button';
import { PageTitle, Sheet } from '../kit/Page';
import { PaperRuler } from '../kit/PaperRuler';
import { PickPiece } from '../kit/PickPiece';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { AnswerCard } from './AnswerCard';
import type { MarkingCommands } from './commands';
import { QuestionBeside } from './QuestionBeside';
import { useMarking } from './useMarking';

type Props = {
  base: string;
  /** The address of the marking of this sitting. */
  here: string;
  page: Page;
  /** One question's answers in some order, or all answers paper by paper. */
  by: 'question' | 'paper';
  order: MarkingOrder;
  /** Whether what is given here is a second mark, blind to the first. */
  second?: boolean;
  commands: MarkingCommands;
};

const orderSaid: Record<MarkingOrder, { says: string; means: string }> = {
  mixed: { says: 'mixed', means: 'mixed: an order of your own, the same whenever you come back' },
  'handed-in': { says: 'as they were handed in', means: 'as they were handed in' },
  similar: { says: 'alike ones one after another', means: 'alike ones one after another' },
};

const atOnceKey = 'wuzzen.marking.at-once';
const amounts = ['1', '3', '10', '50'] as const;
type Amount = (typeof amounts)[number];

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

/** Answers by hand, names hidden: type the points, Enter, and the next that waits stands there. */
export function MarkingPage({ base, here, page, by, order, second = false, commands }: Props) {
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
  const questionOf = (head: AnswerHead): QuestionToMark => {
    const found = page.questions.find((one) => one.questionId === head.questionId) as QuestionToMark;
    return { ...found, comments: comments[head.questionId] ?? found.comments };
  };
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
  const sayStroke = (sign: QuestionSign) =>
    `Answer ${sign.number}: ${sign.awaitsMark ? 'waits for a mark' : 'marked'}${sign.current ? ', here now' : ''}`;
  const setCommentsOf = (questionId: string, next: SavedComment[]) =>
    setComments((before) => ({ ...before, [questionId]: next }));
  const question = questionOf(current);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keys of this page work wherever the focus is
    <div className="min-w-0" onKeyDown={onKey}>
      <PageTitle
        title={by === 'question' ? question.name : `${page.sittingTitle}, paper by paper`}
        back={{ href: base, name: 'Marking' }}
        note={`${by === 'question' ? `${page.sittingTitle} · ` : ''}${second ? 'second marking, without seeing the first · ' : ''}${heads.length - waiting} of ${heads.length} marked`}
      />
      <p role="status" className="sr-only">
        {saved}
      </p>
      {marking.refused
        .filter(([slotId]) => !shown.some((head) => head.slotId === slotId))
        .map(([slotId, all]) => {
          const index = heads.findIndex((head) => head.slotId === slotId);
          return (
            <p key={slotId} role="alert" className="mb-2 border-l-2 border-brick pl-3 text-brick">
              Answer {heads[index]?.number} is not saved: {all[0]?.message}{' '}
              <TextButton onClick={() => show(index)}>Go back to it</TextButton>
            </p>
          );
        })}
      <div className="-mt-2 mb-3 flex flex-wrap items-center gap-x-5 gap-y-1 text-sm">
        <span>
          {by === 'question' ? (
            <>
              Answers come{' '}
              <PickPiece
                label="Order"
                value={order}
                options={(second ? (['mixed'] as const) : (['mixed', 'handed-in', 'similar'] as const)).map(
                  (value) => ({ value, ...orderSaid[value] }),
                )}
                onPick={(value) => router.push(`?order=${value}`)}
              />
              ,{' '}
              <PickPiece
                label="How many at a time"
                value={atOnce}
                options={amounts.map((value) => ({
                  value,
                  says: value === '1' ? 'one at a time' : `${value} at a time`,
                }))}
                onPick={(value) => {
                  setAtOnce(value);
                  keep(atOnceKey, value);
                }}
              />
              .
            </>
          ) : (
            'All answers of one paper together, the papers in an order of your own.'
          )}
        </span>
        <nav aria-label="Ways to mark" className="flex flex-wrap gap-x-4 empty:hidden">
          {by === 'question' && !second && (
            <TextLink href={`${here}/${current.questionId}/together`}>Alike answers together</TextLink>
          )}
          {second ? null : by === 'question' ? (
            <TextLink href={`${here}/papers`}>Paper by paper</TextLink>
          ) : (
            page.questions.map((one) => (
              <TextLink key={one.questionId} href={`${here}/${one.questionId}`}>
                {one.name}
              </TextLink>
            ))
          )}
        </nav>
      </div>
      <div className="mb-4">
        {heads.length <= longestRuler ? (
          <PaperRuler
            signs={signs}
            onPick={(number) => show(number - 1)}
            label="Answers in your order"
            numbered={by === 'question'}
            say={sayStroke}
          />
        ) : (
          <p className="flex items-center gap-3 text-sm text-ink-2 tabular-nums">
            <span className="h-1.5 w-80 bg-plum-wash">
              <span
                className="block h-full bg-plum"
                style={{ width: `${(100 * (heads.length - waiting)) / heads.length}%` }}
              />
            </span>
            Answer {current.number} of {heads.length}, {counted(waiting, 'waits', 'wait')}
          </p>
        )}
      </div>
      <div className="grid items-start gap-4 lg:grid-cols-[1.5fr_1fr]">
        <div ref={cards} className="min-w-0 space-y-4">
          {shown.map((head) => {
            const body = bodies[head.slotId];
            const own = questionOf(head);
            return (
              <div key={head.slotId} data-card={head.slotId}>
                {body ? (
                  <AnswerCard
                    title={
                      body.whose ?? (by === 'paper' ? `${own.name}, paper ${head.paper}` : `Answer ${head.number}`)
                    }
                    body={body}
                    question={own}
                    entered={marking.enteredOf(body)}
                    isTyped={marking.isTyped(head.slotId)}
                    problems={marking.problemsOf(head.slotId)}
                    onEnter={(part) => marking.enter(body, part)}
                    onForget={() => marking.forget(head.slotId)}
                    onKeep={
                      second
                        ? undefined
                        : (text) =>
                            void commands.keepComment(head.questionId, text).then((answer) => {
                              if (answer.ok)
                                setCommentsOf(head.questionId, [
                                  answer.value,
                                  ...own.comments.filter((one) => one.id !== answer.value.id),
                                ]);
                            })
                    }
                    onDrop={(id) =>
                      void commands.dropComment(id).then((answer) => {
                        if (answer.ok)
                          setCommentsOf(
                            head.questionId,
                            own.comments.filter((one) => one.id !== id),
                          );
                      })
                    }
                  />
                ) : (
                  <Sheet label={`Answer ${head.number}`} className="px-5 py-8 text-ink-2">
                    Answer {head.number} is on its way …
                  </Sheet>
                )}
              </div>
            );
          })}
          <div className="sticky bottom-0 z-10 flex flex-wrap items-center gap-2 border border-line bg-sheet px-5 py-2">
            <span className="mr-auto text-sm text-ink-2">
              Enter: save, next · Alt+↑↓: walk · Alt+N: note · Alt+1 … 5: kept comment
            </span>
            <Button onClick={() => show(firstShown - 1)} whyNot={firstShown === 0 ? 'This is the first answer.' : null}>
              Previous
            </Button>
            <Button
              onClick={() => show(firstShown + shown.length)}
              whyNot={firstShown + shown.length >= heads.length ? 'This is the last answer.' : null}
            >
              Next
            </Button>
            <Button
              look="main"
              busy={marking.saving.includes(current.slotId)}
              title={`For answer ${current.number}`}
              onClick={() => save(at)}
            >
              Save the mark
            </Button>
          </div>
        </div>
        <QuestionBeside question={question} document={page.document}>
          {waiting === 0 && (
            <p role="status" className="text-pine">
              All answers {by === 'question' ? 'to this question' : 'of this sitting'} are marked.{' '}
              <Link href={base} className="underline">
                Back to the queue
              </Link>
            </p>
          )}
        </QuestionBeside>
      </div>
    </div>
  );
}
