import { isEmptyRich, type Rich } from '../base/rich';
import type { QuestionContent } from './content';

const kept = (rich: Rich | undefined): Rich | undefined => (rich && !isEmptyRich(rich) ? rich : undefined);

const withKept = <Part extends { feedback?: Rich }>({ feedback, ...part }: Part): Part => {
  const left = kept(feedback);
  return (left ? { ...part, feedback: left } : part) as Part;
};

/** A question without feedback fields that were opened and left empty, and conditions left blank. */
export function withoutEmptyParts(content: QuestionContent): QuestionContent {
  const feedback = Object.fromEntries(Object.entries(content.feedback).filter(([, rich]) => kept(rich)));
  const next = { ...content, feedback } as QuestionContent;
  switch (next.type) {
    case 'single-choice':
    case 'multiple-choice':
      return { ...next, choices: next.choices.map(withKept) } as QuestionContent;
    case 'true-false':
      return { ...next, onTrue: kept(next.onTrue), onFalse: kept(next.onFalse) };
    case 'short-text':
      return { ...next, accepted: next.accepted.map(withKept) };
    case 'numeric':
      return { ...next, accepted: next.accepted.map(withKept), constraints: filled(next.constraints) };
    case 'gap-fill':
      return {
        ...next,
        constraints: filled(next.constraints),
        gaps: next.gaps.map((gap) => {
          if (gap.kind === 'text') return { ...gap, accepted: gap.accepted.map(withKept) };
          if (gap.kind === 'number') return { ...gap, accepted: gap.accepted.map(withKept) };
          return gap;
        }),
      };
    default:
      return next;
  }
}

const filled = (texts: string[] | undefined) => texts?.filter((text) => text.trim() !== '');
