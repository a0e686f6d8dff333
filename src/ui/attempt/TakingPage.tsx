'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { Stroke } from '@/core/attempt/strokes';
import { isEmptyRich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import type { QuestionResponse } from '@/core/question/student';
import { Button } from '../kit/Button';
import { PaperRuler } from '../kit/PaperRuler';
import { RichText } from '../kit/RichText';
import type { FileHandling } from '../question/playing';
import { QuestionPlayer } from '../question/QuestionPlayer';
import { BeforeHandIn } from './BeforeHandIn';
import type { Answer } from './opening';
import { SaveState } from './SaveState';
import { TimeLeft } from './TimeLeft';
import { useAttempt } from './useAttempt';

/** Types whose every change is a decision, sent at once; what is typed waits for a pause. */
const atOnce = new Set(['single-choice', 'multiple-choice', 'true-false', 'matching', 'ordering', 'rating-scale']);

const isAnswered = (answer: Answer | undefined) => answer?.value !== null && answer?.value !== undefined;

/** The exam as a student takes it: fetches the paper, then shows one question, the ruler, the time left, the save state. */
export function TakingPage({ attemptId, title }: { attemptId: string; title: string }) {
  const router = useRouter();
  const { paper, answers, state, deadline, ahead, change, handIn } = useAttempt(attemptId);
  const slots = paper?.slots ?? [];
  const [place, setPlace] = useState(0);
  const [atEnd, setAtEnd] = useState(false);
  const [handing, setHanding] = useState<'no' | 'yes' | 'failed'>('no');
  const heading = useRef<HTMLHeadingElement>(null);
  const moved = useRef(false);
  const slot = slots[place];
  const answer = slot && answers[slot.slotId];
  const closed = state.kind === 'superseded' || state.kind === 'ended' || state.kind === 'opening';

  const goTo = (number: number) => {
    moved.current = true;
    setAtEnd(false);
    setPlace(Math.min(Math.max(number - 1, 0), slots.length - 1));
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: focus follows the question, also for people who hear the page
  useEffect(() => {
    if (moved.current) heading.current?.focus();
  }, [place, atEnd]);

  const finish = async () => {
    setHanding('yes');
    if (await handIn()) router.push(`/my/receipts/${attemptId}`);
    else setHanding('failed');
  };
  useEffect(() => {
    if (state.kind === 'ended') router.push(`/my/receipts/${attemptId}`);
  }, [state.kind, attemptId, router]);

  const strokes: Stroke[] = slots.map((one, i) => ({
    number: one.number,
    partTitle: one.partTitle,
    answered: isAnswered(answers[one.slotId]),
    comeBack: answers[one.slotId]?.comeBack,
    current: !atEnd && i === place,
  }));

  const passage = slot?.passage ? paper?.passages[slot.passage] : undefined;
  return (
    <div className="mx-auto max-w-[760px] px-4 pb-16 text-lg">
      <header className="sticky top-0 z-10 -mx-4 border-b border-line bg-paper px-4 pt-2 pb-2">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          <h1 className="text-lg">{title}</h1>
          <TimeLeft deadline={deadline} ahead={ahead} onOver={() => void finish()} />
        </div>
        <div className="mt-1 mb-2">
          <SaveState state={state} />
        </div>
        <PaperRuler strokes={strokes} onPick={goTo} label="Your paper" />
      </header>

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

      {!slot || !paper ? (
        <p className="mt-8 text-ink-2">{state.kind === 'opening' ? 'Fetching your paper …' : ''}</p>
      ) : atEnd ? (
        <BeforeHandIn
          heading={heading}
          strokes={strokes}
          onGo={goTo}
          onHandIn={() => void finish()}
          handing={handing}
          waiting={state.kind === 'offline'}
        />
      ) : (
        <main className="mt-5">
          {place === 0 && !isEmptyRich(paper.instructions) && (
            <details className="mb-4 border border-line bg-sheet px-4 py-2">
              <summary className="text-base font-medium">Instructions</summary>
              <RichText rich={paper.instructions} className="mt-2" />
            </details>
          )}
          {passage && (
            <details open className="mb-3 border border-line bg-sheet px-4 py-3 sm:px-6">
              <summary className="text-base font-medium">{passageSaid(slots, slot.passage)}</summary>
              <div className="mt-2 max-h-[45dvh] overflow-y-auto">
                <RichText rich={passage} />
              </div>
            </details>
          )}
          <article className="border border-line bg-sheet px-4 py-4 sm:px-6 sm:py-5">
            <div className="mb-2 flex items-baseline justify-between gap-4 text-base text-ink-2">
              <h2 ref={heading} tabIndex={-1} className="font-sans text-base font-medium outline-none">
                Question {slot.number} of {slots.length}
              </h2>
              <span>
                {pointsText(slot.points)} {slot.points === 1 ? 'point' : 'points'}
              </span>
            </div>
            <QuestionPlayer
              key={slot.slotId}
              view={slot.view}
              name={slot.slotId}
              disabled={closed}
              files={answerFiles(attemptId, slot.slotId)}
              response={(answer?.value ?? undefined) as QuestionResponse | undefined}
              onRespond={(value) =>
                change(slot.slotId, { value: value ?? null }, atOnce.has(slot.view.type) ? 0 : undefined)
              }
            />
          </article>
          <div className="mt-3 flex flex-wrap items-center justify-between gap-2 text-base">
            <Button
              look="quiet"
              disabled={closed}
              aria-pressed={answer?.comeBack ?? false}
              onClick={() => change(slot.slotId, { comeBack: !answer?.comeBack }, 0)}
            >
              {answer?.comeBack ? 'Marked to come back to — remove' : 'Come back to this later'}
            </Button>
            <div className="flex gap-2">
              <Button onClick={() => goTo(slot.number - 1)} whyNot={place === 0 ? 'This is the first question.' : null}>
                Previous
              </Button>
              {place < slots.length - 1 ? (
                <Button look="main" onClick={() => goTo(slot.number + 1)}>
                  Next
                </Button>
              ) : (
                <Button
                  look="main"
                  onClick={() => {
                    moved.current = true;
                    setAtEnd(true);
                  }}
                >
                  To the hand-in
                </Button>
              )}
            </div>
          </div>
          {place < slots.length - 1 && (
            <p className="mt-6 text-right text-base">
              <button
                type="button"
                className="text-prussian underline"
                onClick={() => {
                  moved.current = true;
                  setAtEnd(true);
                }}
              >
                I am finished: to the hand-in
              </button>
            </p>
          )}
        </main>
      )}
    </div>
  );
}

/** How a file for an answer gets to the server, and how it is looked at again. */
const answerFiles = (attemptId: string, slotId: string): FileHandling => ({
  send: async (file) => {
    try {
      const query = new URLSearchParams({ slot: slotId, name: file.name });
      const answer = await fetch(`/api/attempts/${attemptId}/files?${query}`, { method: 'POST', body: file });
      const body = (await answer.json()) as { id?: string; problems?: { message: string }[] };
      if (answer.ok && body.id) return { ok: true, id: body.id };
      return { ok: false, message: body.problems?.[0]?.message ?? 'The file could not be taken.' };
    } catch {
      return { ok: false, message: 'The server could not be reached: the file has not been sent. Try again.' };
    }
  },
  link: (id, name) => (
    <a href={`/answer-files/${id}`} download className="text-prussian underline">
      {name}
    </a>
  ),
});

/** Which questions of the paper a passage belongs to. */
function passageSaid(slots: readonly { number: number; passage: string | null }[], id: string | null): string {
  const numbers = slots.filter((slot) => slot.passage === id).map((slot) => slot.number);
  if (numbers.length === 1) return `For question ${numbers[0]}`;
  return `For questions ${numbers.slice(0, -1).join(', ')} and ${numbers[numbers.length - 1]}`;
}
