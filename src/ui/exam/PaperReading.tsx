import { longestRuler } from '@/core/attempt/paperRuler';
import type { Rich } from '@/core/base/rich';
import { pointsSaid } from '@/core/base/words';
import type { QuestionContent } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { Sheet } from '../kit/Page';
import { PaperRuler } from '../kit/PaperRuler';
import { RichText } from '../kit/RichText';
import { QuestionReview } from '../question/QuestionReview';

type Slot = {
  number: number;
  partTitle: string;
  points: number;
  content: QuestionContent;
  presentation: Presentation;
  passage: Rich | null;
  from: string;
};

/** A paper to be read with its right answers: the ruler, then question by question. */
export function PaperReading({ slots }: { slots: readonly Slot[] }) {
  return (
    <>
      {slots.length <= longestRuler && (
        <PaperRuler
          label="This paper"
          signs={slots.map((slot) => ({ number: slot.number, partTitle: slot.partTitle, answered: false }))}
        />
      )}
      <ol className="mt-4 space-y-3">
        {slots.map((slot, i) => (
          <li key={slot.number} className="[contain-intrinsic-size:auto_200px] [content-visibility:auto]">
            {slot.partTitle !== slots[i - 1]?.partTitle && <h2 className="mt-6 mb-2 text-xl">{slot.partTitle}</h2>}
            {slot.passage && (
              <Sheet className="mb-3 px-5 py-3" label="Passage">
                <RichText rich={slot.passage} />
              </Sheet>
            )}
            <Sheet className="px-5 py-3">
              <p className="mb-1 flex justify-between gap-4 text-sm text-ink-2">
                <span>{[slot.number, slot.from].filter(Boolean).join(' · ')}</span>
                <span>{pointsSaid(slot.points)}</span>
              </p>
              <QuestionReview content={slot.content} presentation={slot.presentation} />
            </Sheet>
          </li>
        ))}
      </ol>
    </>
  );
}
