'use client';
import { Plus } from 'lucide-react';
import type { Problem } from '@/core/base/result';
import type { Units } from '@/core/question/types/numeric/units';
import { Button, RemoveButton } from '../../kit/Button';
import { SelectField, TextField } from '../../kit/Field';
import { contentProblem } from '../editing';
import { NumberText } from '../NumberText';
import { addsText, isText } from '../textOrder';

type Props = { units: Units; onChange: (units: Units | undefined) => void; problems: readonly Problem[]; path: string };

/** The base unit and those that are converted to it. */
export function UnitsEditor({ units, onChange, problems, path }: Props) {
  const { list } = units;
  const base = list[0]?.name || 'the base unit';
  const change = (at: number, part: Partial<Units['list'][number]>) =>
    onChange({ ...units, list: list.map((unit, i) => (i === at ? { ...unit, ...part } : unit)) });
  return (
    <fieldset className="mt-2 border border-line p-3">
      <legend className="px-1 text-sm font-medium">Units</legend>
      <ol className="space-y-1">
        {list.map((unit, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the rows have no identity besides their place
          <li key={i} className="flex items-start gap-2">
            <TextField
              quiet
              {...isText}
              label={i === 0 ? 'Base unit' : `Unit ${i + 1}`}
              placeholder={i === 0 ? 'nm' : 'km'}
              className="w-28"
              value={unit.name}
              onChange={(event) => change(i, { name: event.target.value })}
              problem={contentProblem(problems, `${path}units.list.${i}.name`)}
            />
            {i === 0 ? (
              <span className="pt-2 text-sm text-ink-2">base: the accepted values are given in it</span>
            ) : (
              <>
                <span className="pt-2 text-sm text-ink-2">is</span>
                <NumberText
                  quiet
                  label={`${unit.name || `Unit ${i + 1}`} in ${base}`}
                  className="w-44"
                  value={unit.factor}
                  onChange={(factor) => change(i, { factor })}
                  problem={contentProblem(problems, `${path}units.list.${i}.factor`)}
                />
                <span className="pt-2 text-sm text-ink-2">{base}</span>
              </>
            )}
            <RemoveButton
              label={i === 0 ? 'Ask for no unit' : `Remove unit ${unit.name}`}
              onClick={() => onChange(i === 0 ? undefined : { ...units, list: list.filter((_, at) => at !== i) })}
            />
          </li>
        ))}
      </ol>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        <Button
          look="quiet"
          {...addsText}
          onClick={() => onChange({ ...units, list: [...list, { name: '', factor: 1 }] })}
        >
          <Plus size={15} aria-hidden="true" /> Another unit
        </Button>
        <SelectField
          label="The student"
          value={units.entry}
          onChange={(event) => onChange({ ...units, entry: event.target.value as Units['entry'] })}
        >
          <option value="typed">types the unit</option>
          <option value="list">picks the unit from this list</option>
        </SelectField>
        <SelectField
          label="Without a unit an answer is"
          value={units.missing}
          onChange={(event) => onChange({ ...units, missing: event.target.value as Units['missing'] })}
        >
          <option value="refuse">wrong</option>
          <option value="assume">taken as {base}</option>
        </SelectField>
      </div>
    </fieldset>
  );
}
