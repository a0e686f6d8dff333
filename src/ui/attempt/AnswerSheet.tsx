'use client';
import { richText } from '@/core/base/rich';
import { pointsSaid } from '@/core/base/words';
import type { QuestionResponse } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { AnswerRow } from './answerRows';
import type { Answer, TakingSlot } from './opening';

type Props = {
  slots: readonly TakingSlot[];
  answers: Record<string, Answer>;
  heading: (number: number, element: HTMLHeadingElement | null) => void;
  closed: boolean;
  onRespond: (slotId: string, value: QuestionResponse | null, type: QuestionType) => void;
  onComeBack: (slotId: string, comeBack: boolean) => void;
};

/** A page of items whose questions stand on paper: one row for each, its choices side by side. */
export function AnswerSheet({ slots, answers, heading, closed, onRespond, onComeBack }: Props) {
  return (
    <ol aria-label="Items" className="border border-line bg-sheet">
      {slots.map((slot) => {
        const answer = answers[slot.slotId];
        const { view } = slot;
        if (!view || !('stem' in view)) return null;
        const label = richText(view.stem);
        return (
          <li
            key={slot.slotId}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3 py-1.5 last:border-b-0 sm:px-4"
          >
            <div className="w-24 flex-1 sm:flex-none">
              <h2
                ref={(element) => heading(slot.number, element)}
                tabIndex={-1}
                className="font-sans text-base font-medium outline-none"
              >
                {label}
              </h2>
              <span className="text-sm text-ink-2">{pointsSaid(slot.points)}</span>
            </div>
            <div className="order-3 min-w-0 basis-full sm:order-none sm:flex-1 sm:basis-0">
              <AnswerRow
                view={view}
                name={slot.slotId}
                label={label}
                closed={closed}
                value={answer?.value as QuestionResponse | null | undefined}
                onRespond={(value) => onRespond(slot.slotId, value, view.type)}
              />
            </div>
            <label className="flex min-h-11 items-center gap-1.5 text-sm text-ink-2">
              <input
                type="checkbox"
                className="size-4 accent-saffron"
                disabled={closed}
                checked={answer?.comeBack ?? false}
                onChange={(event) => onComeBack(slot.slotId, event.target.checked)}
              />
              come back<span className="sr-only"> to {label} later</span>
            </label>
          </li>
        );
      })}
    </ol>
  );
}
