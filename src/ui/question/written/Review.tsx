import { isEmptyRich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import type { WrittenContent } from '@/core/question/types/written/content';
import type { WrittenText } from '@/core/question/types/written/student';
import { RichText } from '../../kit/RichText';
import type { ReviewProps } from '../reviewing';

/** The answer, the model answer and the rubric. For those who may see them. */
export function WrittenReview({ content, response }: ReviewProps<WrittenContent, WrittenText>) {
  return (
    <div className="space-y-2">
      {response &&
        (response.rich ? (
          <RichText rich={response.rich} />
        ) : (
          <p className="whitespace-pre-wrap px-2">{response.text}</p>
        ))}
      {isEmptyRich(content.modelAnswer) ? (
        <p className="px-2 text-ink-2">Marked by hand; no model answer yet.</p>
      ) : (
        <div className="bg-pine-wash px-2 py-1">
          <p className="text-sm text-pine">Model answer</p>
          <RichText rich={content.modelAnswer} />
        </div>
      )}
      {content.rubric && <RubricTable rubric={content.rubric} />}
    </div>
  );
}

/** Criteria and levels with the share of the points that each can earn. */
export function RubricTable({ rubric }: { rubric: NonNullable<WrittenContent['rubric']> }) {
  const weights = rubric.criteria.reduce((sum, criterion) => sum + criterion.weight, 0);
  return (
    <table className="w-full text-sm">
      <thead>
        <tr className="border-b border-line text-left">
          <th className="py-1 pr-3 font-medium">Criterion</th>
          <th className="py-1 pr-3 font-medium">Of the points</th>
          <th className="py-1 font-medium">Levels</th>
        </tr>
      </thead>
      <tbody>
        {rubric.criteria.map((criterion) => (
          <tr key={criterion.id} className="border-b border-line align-top">
            <td className="py-1 pr-3">{criterion.name}</td>
            <td className="py-1 pr-3">{pointsText((criterion.weight / weights) * 100)} %</td>
            <td className="py-1">
              {criterion.levels.map((level) => `${level.name} (${pointsText(level.share * 100)} %)`).join(' · ')}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
