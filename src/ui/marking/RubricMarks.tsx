'use client';
import { pointsText } from '@/core/base/rounding';
import type { RubricLevels } from '@/core/marking/marks';
import type { Rubric } from '@/core/question/types/written/content';

type Props = {
  slotId: string;
  rubric: Rubric;
  outOf: number;
  levels: RubricLevels;
  onPick: (criterionId: string, levelId: string) => void;
};

/** The criteria of a rubric, each with its levels to choose from and what they earn. Arrow keys walk the levels. */
export function RubricMarks({ slotId, rubric, outOf, levels, onPick }: Props) {
  const weights = rubric.criteria.reduce((sum, criterion) => sum + criterion.weight, 0);
  return (
    <div className="space-y-1.5">
      {rubric.criteria.map((criterion) => {
        const most = (outOf * criterion.weight) / weights;
        return (
          <fieldset key={criterion.id} className="flex flex-wrap items-baseline gap-x-1 gap-y-1">
            <legend className="float-left mr-2 w-40 shrink-0 text-sm font-medium">
              {criterion.name} <span className="font-normal text-ink-2">of {pointsText(most)}</span>
            </legend>
            {criterion.levels.map((level) => {
              const on = levels[criterion.id] === level.id;
              return (
                <label
                  key={level.id}
                  className={`flex cursor-pointer items-baseline gap-1.5 border px-2 py-0.5 text-sm has-focus-visible:outline-2 has-focus-visible:outline-prussian ${on ? 'border-prussian bg-prussian-wash' : 'border-line hover:bg-prussian-wash'}`}
                >
                  <input
                    type="radio"
                    name={`${slotId}/${criterion.id}`}
                    checked={on}
                    onChange={() => onPick(criterion.id, level.id)}
                    className="accent-prussian"
                  />
                  {level.name} <span className="text-ink-2 tabular-nums">{pointsText(most * level.share)}</span>
                </label>
              );
            })}
          </fieldset>
        );
      })}
    </div>
  );
}
