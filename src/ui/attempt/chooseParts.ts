import type { ChooseRule } from '@/core/exam/design';
import type { Answer, TakingSlot } from './opening';

export const isAnswered = (answer: Answer | undefined): boolean =>
  answer?.value !== null && answer?.value !== undefined;

/** How far a choose-part has come. */
export type PartProgress = { partId: string; title: string; rule: ChooseRule; questions: number; answered: number };

export function partProgress(
  slots: readonly TakingSlot[],
  choose: Record<string, ChooseRule>,
  answers: Record<string, Answer>,
): PartProgress[] {
  return Object.entries(choose).flatMap(([partId, rule]) => {
    const own = slots.filter((slot) => slot.partId === partId);
    const [first] = own;
    if (!first) return [];
    const answered = own.filter((slot) => isAnswered(answers[slot.slotId])).length;
    return [{ partId, title: first.partTitle, rule, questions: own.length, answered }];
  });
}

const extraSaid: Record<ChooseRule['extra'], string> = {
  refused: '',
  best: ' If you answer more, your best count.',
  'credit-in-part': ' More answers can make up for points lost in this part.',
  'credit-in-exam': ' More answers can make up for points lost anywhere in the exam.',
};

/** What a choose-part asks for, in words for the student. */
export const chooseSaid = ({ count, extra }: ChooseRule, progress: PartProgress | undefined): string =>
  `Answer any ${count} of these ${progress?.questions ?? ''} questions: ${progress?.answered ?? 0} answered so far.${extraSaid[extra]}`;
