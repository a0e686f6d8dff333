'use client';
import { useRef, useState } from 'react';
import type { WhyNotAnswer } from '@/core/attempt/mayAnswer';
import { durationText } from '@/core/base/time';
import { pointsSaid } from '@/core/base/words';
import type { QuestionResponse } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { Button } from '../kit/Button';
import { takingOf } from '../question/players';
import type { FileHandling } from '../question/playing';
import { QuestionPlayer } from '../question/QuestionPlayer';
import { CheckQuestion } from './CheckQuestion';
import { isAnswered } from './chooseParts';
import { Corrections } from './Notices';
import type { Answer, Notice, TakingSlot } from './opening';
import { ReportQuestion } from './ReportQuestion';
import { TimeLeft } from './TimeLeft';

type Props = {
  slot: TakingSlot;
  count: number;
  answer: Answer | undefined;
  heading: (element: HTMLHeadingElement | null) => void;
  closed: boolean;
  ahead: number;
  zone: string;
  /** Why it cannot be answered now, and in words; asked anew whenever something about it changes. */
  whyNot: () => { why: WhyNotAnswer; said: string } | null;
  /** Whether its student can come back to it. */
  mayComeBack: boolean;
  files: FileHandling;
  /** @returns whether the server has opened it */
  onOpen: () => Promise<boolean>;
  onRespond: (value: QuestionResponse | null, type: QuestionType) => void;
  onComeBack: (comeBack: boolean) => void;
  notices: readonly Notice[];
  onCheck: () => Promise<string | null>;
  onAgain: () => Promise<string | null>;
  /** Null where nobody would read a report. */
  onReport: ((text: string) => Promise<string | null>) | null;
};

/** One question of the paper with its number, its points, its own time where it has one, and the mark to come back to it. */
export function TakingQuestion({
  slot,
  count,
  answer,
  heading,
  closed,
  ahead,
  zone,
  whyNot: asked,
  mayComeBack,
  files,
  onOpen,
  onRespond,
  onComeBack,
  notices,
  onCheck,
  onAgain,
  onReport,
}: Props) {
  const { view, checked } = slot;
  /** Drawn anew when its own time is over. */
  const [, setOverAt] = useState(0);
  const head = useRef<HTMLHeadingElement | null>(null);
  const whyNot = asked();
  const isOver = whyNot?.why === 'question-over';
  return (
    <article className="border border-line bg-sheet px-4 py-4 sm:px-6 sm:py-5">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-4 text-base text-ink-2">
        <h2
          ref={(element) => {
            head.current = element;
            heading(element);
          }}
          tabIndex={-1}
          className="font-sans text-base font-medium outline-none"
        >
          Question {slot.number} of {count}
          {slot.required && <span className="text-saffron"> · has to be answered</span>}
        </h2>
        <span>{pointsSaid(slot.points)}</span>
      </div>
      {slot.until !== null && !isOver && !closed && (
        <p className="mb-2">
          <TimeLeft
            deadline={slot.until}
            ahead={ahead}
            what=" for this question"
            onOver={() => setOverAt(Date.now())}
          />
        </p>
      )}
      {isOver && (
        <p role="status" className="mb-2 text-base text-saffron">
          The time for this question is over. What you entered counts.
        </p>
      )}
      <Corrections notices={notices} slotId={slot.slotId} zone={zone} />
      {whyNot?.why === 'beyond-choose' && <p className="mb-2 text-base text-saffron">{whyNot.said}</p>}
      {view ? (
        <QuestionPlayer
          view={view}
          name={slot.slotId}
          disabled={closed || whyNot !== null}
          files={files}
          response={(answer?.value ?? undefined) as QuestionResponse | undefined}
          onRespond={(value) => onRespond(value ?? null, view.type)}
        />
      ) : (
        <NotOpened
          limit={slot.limit ?? 0}
          closed={closed}
          onOpen={async () => {
            const opened = await onOpen();
            // Whoever opened it by keyboard goes on from the question, now that the button is gone.
            if (opened) head.current?.focus();
            return opened;
          }}
        />
      )}
      {checked && view && takingOf(view.type).checkable && (
        <CheckQuestion
          checked={checked}
          number={slot.number}
          answered={isAnswered(answer)}
          disabled={closed || isOver}
          onCheck={onCheck}
          onAgain={onAgain}
        />
      )}
      <div className="mt-3 flex flex-wrap items-start justify-between gap-x-3 text-base">
        {mayComeBack && view ? (
          <Button
            look="quiet"
            disabled={closed || isOver}
            aria-pressed={answer?.comeBack ?? false}
            onClick={() => onComeBack(!answer?.comeBack)}
          >
            {answer?.comeBack ? 'Marked to come back to — remove' : 'Come back to this later'}
          </Button>
        ) : (
          <span />
        )}
        {onReport && <ReportQuestion slotId={slot.slotId} number={slot.number} onReport={onReport} />}
      </div>
    </article>
  );
}

/** A question with a time of its own, before it is opened. */
function NotOpened({ limit, closed, onOpen }: { limit: number; closed: boolean; onOpen: () => Promise<boolean> }) {
  const [state, setState] = useState<'ready' | 'opening' | 'failed'>('ready');
  const open = async () => {
    setState('opening');
    if (!(await onOpen())) setState('failed');
  };
  return (
    <div>
      <p>
        This question has a time of its own: {durationText(limit)}. It begins when you open the question, and runs on if
        you go elsewhere.
      </p>
      {state === 'failed' && (
        <p role="alert" className="mt-2 text-base text-brick">
          The server could not be reached. The question has not been opened; try again.
        </p>
      )}
      <Button className="mt-3" look="main" disabled={closed || state === 'opening'} onClick={() => void open()}>
        {state === 'opening' ? 'Opening …' : `Open the question: ${durationText(limit)}`}
      </Button>
    </div>
  );
}
