import { ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { QuestionContent } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { settle } from '@/core/question/settle';
import type { Context } from '../house/context';
import { drawnSample } from './drawnSample';

export type SampleSlot = {
  number: number;
  partTitle: string;
  points: number;
  content: QuestionContent;
  /** The order in which this paper shows the choices, by id. */
  presentation: Presentation;
  /** The passage it is shown with; given with the first of its questions only. */
  passage: Rich | null;
  from: string;
};

/** A sample paper with its right answers, for its instructor and for a colleague who looks at it. */
export function samplePaper(
  context: Context,
  courseId: string,
  examId: string,
  seed: string,
): Result<{ title: string; slots: SampleSlot[] }> {
  const drawn = drawnSample(context, courseId, examId, seed);
  if (!drawn.ok) return drawn;
  const { title, slots, passages } = drawn.value;
  return ok({
    title,
    slots: slots.map((slot, i) => ({
      number: i + 1,
      partTitle: slot.partTitle,
      points: slot.points,
      presentation: slot.presentation,
      passage: slot.passageId !== slots[i - 1]?.passageId ? (passages.get(slot.passageId ?? '') ?? null) : null,
      content: settle(slot.content, slot.presentation),
      from: slot.from,
    })),
  });
}
