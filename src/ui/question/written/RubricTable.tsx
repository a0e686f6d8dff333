import { Fragment } from 'react';
import { pointsText } from '@/core/base/rounding';
import type { Rubric } from '@/core/question/types/written/content';

/**
 * Criteria and levels with the share of the points that each can earn.
 *
 * @param levels what was given for each criterion, where something was
 */
export function RubricTable({ rubric, levels = {} }: { rubric: Rubric; levels?: Record<string, string> }) {
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
              {criterion.levels.map((level, i) => {
                const text = `${level.name} (${pointsText(level.share * 100)} %)`;
                return (
                  <Fragment key={level.id}>
                    {i > 0 && ' · '}
                    {levels[criterion.id] === level.id ? (
                      <strong className="bg-prussian-wash px-1">
                        {text}
                        <span className="sr-only">, given</span>
                      </strong>
                    ) : (
                      text
                    )}
                  </Fragment>
                );
              })}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
