import { richText } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import { idOf } from '@/core/question/presentation';
import type { GapFillContent } from '@/core/question/types/gap-fill/content';
import { gapAnswer, scoreGap } from '@/core/question/types/gap-fill/score';
import type { GapFillResponse } from '@/core/question/types/gap-fill/student';
import { RichText } from '../../kit/RichText';
import type { ReviewProps } from '../reviewing';

/** The running text with the right answer in each gap, and what was entered where it differs. */
export function GapFillReview({ content, presentation, response }: ReviewProps<GapFillContent, GapFillResponse>) {
  return (
    <RichText
      rich={content.stem}
      className="text-lg leading-[1.9]"
      gap={(id) => {
        const gap = content.gaps.find((one) => one.id === id);
        if (!gap) return null;
        const given = response?.gaps[id];
        const credit = scoreGap(gap, presentation, given);
        const option =
          gap.kind === 'pick' ? gap.options.find((one) => one.id === idOf(presentation.lists?.[id], given)) : null;
        const said = option ? richText(option.content) : given;
        return (
          <span className="mx-1 whitespace-nowrap">
            {response && credit < 1 && (
              <span className="bg-brick-wash px-1.5 text-brick">
                {said ? <s>{said}</s> : 'empty'}
                {credit > 0 && ` ${pointsText(credit * 100)} %`}
              </span>
            )}
            <span className="border-b-2 border-pine bg-pine-wash px-1.5">{gapAnswer(gap)}</span>
          </span>
        );
      }}
    />
  );
}
