'use client';
import type { Problem } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { weightsProblems } from '@/core/gradebook/gradebookRules';
import { Button, RemoveButton } from '../kit/Button';
import { SelectField, TextField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { Sheet } from '../kit/Page';
import { problemAt } from '../kit/Problems';
import { type EnteredGroup, readGroups } from './useOtherNumbers';

/** The weighted groups, entered together. */
export function GroupsSheet({
  entered,
  loose,
  problems,
  onChange,
}: {
  entered: EnteredGroup[];
  /** How many columns are in no group. */
  loose: number;
  problems: Problem[];
  onChange: (entered: EnteredGroup[]) => void;
}) {
  const read = readGroups(entered);
  const said = weightsProblems(read, entered.some((group) => group.id === '') ? 0 : loose);
  const at = (i: number, part: Partial<EnteredGroup>) =>
    onChange(entered.map((group, other) => (other === i ? { ...group, ...part } : group)));
  return (
    <Sheet label="Groups" className="mb-4 px-5 py-4">
      <h2 className="text-lg">Groups</h2>
      {entered.length === 0 && (
        <p className="text-ink-2">
          Without groups all columns count together, a point a point. With groups, each has its share of the total,
          whatever its points.
        </p>
      )}
      <ol>
        {entered.map((group, i) => (
          <li key={group.id || `new ${i}`} className="flex flex-wrap items-start gap-3 border-t border-line py-2">
            <TextField
              label="Title"
              className="w-56"
              value={group.title}
              problem={problemAt(problems, `groups.${i}.title`)}
              onChange={(event) => at(i, { title: event.target.value })}
            />
            <NumberField
              label="Weight, %"
              className="w-24"
              value={group.weight}
              problem={problemAt(problems, `groups.${i}.weight`)}
              onChange={(event) => at(i, { weight: event.target.value })}
            />
            <SelectField
              label="Within it"
              className="w-56"
              value={group.counting}
              onChange={(event) => at(i, { counting: event.target.value as EnteredGroup['counting'] })}
            >
              <option value="points">a point is a point</option>
              <option value="equal">each column weighs the same</option>
            </SelectField>
            <NumberField
              label="Lowest dropped"
              className="w-28"
              whole
              value={group.drop}
              problem={problemAt(problems, `groups.${i}.drop`)}
              onChange={(event) => at(i, { drop: event.target.value })}
            />
            <span className="pt-7">
              <RemoveButton
                label={`Remove ${group.title || 'the group'}`}
                onClick={() => onChange(entered.filter((_, other) => other !== i))}
              />
            </span>
          </li>
        ))}
      </ol>
      {said.map((one) => (
        <p key={one.message} className={one.kind === 'error' ? 'text-brick' : 'text-saffron'}>
          {one.message}
        </p>
      ))}
      {entered.some((group) => group.id === '') && (
        <p className="text-ink-2">Columns are put into a new group once it is kept.</p>
      )}
      <Button
        className="mt-2"
        onClick={() =>
          onChange([
            ...entered,
            {
              id: '',
              title: '',
              weight: pointsText(Math.max(0, 100 - read.reduce((sum, group) => sum + (group.weight || 0), 0))),
              counting: 'points',
              drop: '0',
            },
          ])
        }
      >
        Add a group
      </Button>
    </Sheet>
  );
}
