'use client';
import { Plus } from 'lucide-react';
import type { Problem } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { freeId } from '@/core/question/choices';
import type { Rubric } from '@/core/question/types/written/content';
import { Button, RemoveButton } from '../../kit/Button';
import { TextField } from '../../kit/Field';
import { contentProblem } from '../editing';
import { NumberText } from '../NumberText';

type Props = { rubric: Rubric; onChange: (rubric: Rubric | undefined) => void; problems: readonly Problem[] };
type Criterion = Rubric['criteria'][number];

export const blankCriterion = (criteria: Criterion[]): Criterion => ({
  id: freeId(criteria, 'k'),
  name: '',
  weight: 1,
  levels: [
    { id: 'l0', name: 'missing', share: 0 },
    { id: 'l1', name: 'partly', share: 0.5 },
    { id: 'l2', name: 'fully', share: 1 },
  ],
});

/** Criteria with their weights, and the levels of each with the share they earn. */
export function RubricEditor({ rubric, onChange, problems }: Props) {
  const { criteria } = rubric;
  const set = (next: Criterion[]) => onChange(next.length ? { criteria: next } : undefined);
  const change = (at: number, part: Partial<Criterion>) =>
    set(criteria.map((one, i) => (i === at ? { ...one, ...part } : one)));
  const all = criteria.reduce((sum, one) => sum + one.weight, 0);
  return (
    <fieldset className="border border-line p-3">
      <legend className="px-1 text-sm font-medium">Rubric</legend>
      <ol className="divide-y divide-line">
        {criteria.map((criterion, c) => {
          const level = (at: number, part: Partial<Criterion['levels'][number]>) =>
            change(c, { levels: criterion.levels.map((one, i) => (i === at ? { ...one, ...part } : one)) });
          return (
            <li key={criterion.id} className="py-2 first:pt-0">
              <div className="flex items-start gap-2">
                <TextField
                  quiet
                  label={`Criterion ${c + 1}`}
                  placeholder="What is looked at"
                  className="flex-1"
                  value={criterion.name}
                  onChange={(event) => change(c, { name: event.target.value })}
                  problem={contentProblem(problems, `rubric.criteria.${c}.name`)}
                />
                <span className="pt-2 text-sm text-ink-2">weight</span>
                <NumberText
                  quiet
                  label={`Weight of criterion ${c + 1}`}
                  className="w-16"
                  value={criterion.weight}
                  onChange={(weight) => change(c, { weight })}
                  problem={contentProblem(problems, `rubric.criteria.${c}.weight`)}
                />
                <span className="w-16 pt-2 text-sm text-ink-2">{pointsText((criterion.weight / all) * 100)} %</span>
                <RemoveButton
                  label={`Remove criterion ${c + 1}`}
                  onClick={() => set(criteria.filter((_, i) => i !== c))}
                />
              </div>
              {contentProblem(problems, `rubric.criteria.${c}.levels`) && (
                <p className="text-sm text-brick">{contentProblem(problems, `rubric.criteria.${c}.levels`)}</p>
              )}
              <ul className="mt-1 flex flex-wrap gap-x-4 gap-y-1 pl-4">
                {criterion.levels.map((one, l) => (
                  <li key={one.id} className="flex items-start gap-1">
                    <TextField
                      quiet
                      label={`Level ${l + 1} of criterion ${c + 1}`}
                      className="w-36"
                      value={one.name}
                      onChange={(event) => level(l, { name: event.target.value })}
                      problem={contentProblem(problems, `rubric.criteria.${c}.levels.${l}.name`)}
                    />
                    <NumberText
                      quiet
                      label={`Percent that level ${l + 1} earns`}
                      className="w-16"
                      value={one.share * 100}
                      onChange={(percent) => level(l, { share: percent / 100 })}
                      problem={contentProblem(problems, `rubric.criteria.${c}.levels.${l}.share`) && '0 to 100'}
                    />
                    <span className="pt-2 text-sm text-ink-2">%</span>
                    <RemoveButton
                      label={`Remove level ${l + 1} of criterion ${c + 1}`}
                      disabled={criterion.levels.length <= 2}
                      onClick={() => change(c, { levels: criterion.levels.filter((_, i) => i !== l) })}
                    />
                  </li>
                ))}
                <li>
                  <Button
                    look="quiet"
                    onClick={() =>
                      change(c, {
                        levels: [...criterion.levels, { id: freeId(criterion.levels, 'l'), name: '', share: 1 }],
                      })
                    }
                  >
                    Add a level
                  </Button>
                </li>
              </ul>
            </li>
          );
        })}
      </ol>
      <Button look="quiet" onClick={() => set([...criteria, blankCriterion(criteria)])}>
        <Plus size={15} aria-hidden="true" /> Another criterion
      </Button>
    </fieldset>
  );
}
