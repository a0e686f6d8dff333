'use client';
import { useState } from 'react';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { GradeGroup } from '@/core/gradebook/courseTotal';
import { weightsProblems } from '@/core/gradebook/gradebookRules';
import type { Tried } from '@/server/gradebook/bookSettings';
import type { ColumnShown } from '@/server/gradebook/gradebook';
import { Button, RemoveButton } from '../kit/Button';
import { SelectField, TextField } from '../kit/Field';
import { numberIn } from '../kit/numberIn';
import { Sheet } from '../kit/Page';
import { Problems, problemAt } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';

export type GroupsCommands = {
  setGroups: Command<[input: unknown], null>;
  tryOther: Command<[input: unknown], Tried>;
};

type Entered = { id: string; title: string; weight: string; counting: GradeGroup['counting']; drop: string };

/** The weighted groups: entered together, tried before they are kept. */
export function GroupsSheet({
  groups,
  loose,
  busy,
  commands,
  onDone,
}: {
  groups: GradeGroup[];
  loose: ColumnShown[];
  busy: boolean;
  commands: GroupsCommands;
  onDone: (said: string) => void;
}) {
  const { perform, problems, busy: saving } = usePerform();
  const [tried, setTried] = useState<Tried | null>(null);
  const from = (): Entered[] =>
    groups.map((group) => ({ ...group, weight: pointsText(group.weight), drop: String(group.drop) }));
  const [entered, setEntered] = useState<Entered[]>(from);
  const [changed, setChanged] = useState(false);
  const change = (next: Entered[]) => {
    setEntered(next);
    setChanged(true);
    setTried(null);
  };
  const read = entered.map((group) => ({
    ...group,
    weight: numberIn(group.weight),
    drop: Number(group.drop),
  }));
  const said = weightsProblems(read, 0);
  const at = (i: number, part: Partial<Entered>) =>
    change(entered.map((group, other) => (other === i ? { ...group, ...part } : group)));
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
              problem={problemAt(problems, `${i}.title`)}
              onChange={(event) => at(i, { title: event.target.value })}
            />
            <TextField
              label="Weight, %"
              className="w-24"
              inputMode="decimal"
              value={group.weight}
              problem={problemAt(problems, `${i}.weight`)}
              onChange={(event) => at(i, { weight: event.target.value })}
            />
            <SelectField
              label="Within it"
              className="w-56"
              value={group.counting}
              onChange={(event) => at(i, { counting: event.target.value as Entered['counting'] })}
            >
              <option value="points">a point is a point</option>
              <option value="equal">each column weighs the same</option>
            </SelectField>
            <TextField
              label="Lowest dropped"
              className="w-28"
              inputMode="numeric"
              value={group.drop}
              problem={problemAt(problems, `${i}.drop`)}
              onChange={(event) => at(i, { drop: event.target.value })}
            />
            <span className="pt-7">
              <RemoveButton
                label={`Remove ${group.title || 'the group'}`}
                onClick={() => change(entered.filter((_, other) => other !== i))}
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
      <Problems problems={problems.filter((one) => !/^\d+\./.test(one.field ?? ''))} className="mt-2" />
      <div className="mt-2 flex flex-wrap gap-2">
        <Button
          onClick={() =>
            change([
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
        {changed && (
          <>
            <Button
              onClick={() =>
                void perform(
                  () => commands.tryOther({ groups: read }),
                  (value) => setTried(value),
                )
              }
            >
              What would change
            </Button>
            <Button
              look="main"
              disabled={busy || saving}
              onClick={() =>
                void perform(
                  () => commands.setGroups(read),
                  () => {
                    setChanged(false);
                    onDone(
                      loose.length && groups.length === 0
                        ? 'The groups are kept. Now put each column into one, below.'
                        : 'The groups are kept.',
                    );
                  },
                )
              }
            >
              Keep the groups
            </Button>
            <Button
              look="quiet"
              onClick={() => {
                setEntered(from());
                setChanged(false);
                setTried(null);
              }}
            >
              Leave them as they were
            </Button>
          </>
        )}
      </div>
      {tried && <TriedSaid tried={tried} />}
    </Sheet>
  );
}

/** What other rules would make of the totals, in numbers. */
function TriedSaid({ tried }: { tried: Tried }) {
  const mean = (value: number | null) => (value === null ? '–' : `${roundHalfUp(value, 1)} %`);
  return (
    <div role="status" className="mt-3 border-l-2 border-prussian pl-4">
      <p>
        The mean of the totals goes from {mean(tried.before.mean)} to {mean(tried.after.mean)};{' '}
        {counted(tried.moved, 'total moves', 'totals move')},{' '}
        {counted(tried.crossing.length, 'student gets', 'students get')} another band. Nothing is kept yet.
      </p>
      {tried.crossing.length > 0 && (
        <ul className="text-sm">
          {tried.crossing.slice(0, 20).map((one) => (
            <li key={one.name}>
              {one.name}: {one.from || 'none'} → {one.to || 'none'}
            </li>
          ))}
          {tried.crossing.length > 20 && <li>and {tried.crossing.length - 20} more</li>}
        </ul>
      )}
    </div>
  );
}
