'use client';
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { useId, useState } from 'react';
import { inputShape, SelectField } from '../kit/Field';
import { FileLink } from '../kit/FileLink';
import type { Objective } from './model';

type Props = {
  objectives: Objective[];
  /** Tags used in the bank already. */
  known: string[];
  tags: string[];
  chosen: string[];
  onTags: (tags: string[]) => void;
  onObjectives: (ids: string[]) => void;
  passages: { id: string; shortName: string }[];
  passageId: string | null;
  onPassage: (id: string | null) => void;
  passagesHref: string;
};

/** Objectives from the bank's list, and free tags. */
export function LabelFields({
  objectives,
  known,
  tags,
  chosen,
  onTags,
  onObjectives,
  passages,
  passageId,
  onPassage,
  passagesHref,
}: Props) {
  const id = useId();
  const [text, setText] = useState(tags.join(', '));
  return (
    <div className="grid grid-cols-3 gap-3 text-sm">
      <div>
        <span className="mb-1 block font-medium">Objectives</span>
        <Popover>
          <PopoverButton className={`${inputShape} text-left`}>
            {objectives
              .filter((one) => chosen.includes(one.id))
              .map((one) => one.code)
              .join(', ') || 'none'}
          </PopoverButton>
          <PopoverPanel
            anchor="bottom start"
            className="z-30 max-h-80! w-80 overflow-y-auto border border-line bg-sheet p-2 text-sm shadow-md"
          >
            {objectives.length === 0 && <p className="px-2">This bank has no objectives yet.</p>}
            {objectives.map((one) => (
              <label key={one.id} className="flex gap-2 px-2 py-1 hover:bg-prussian-wash">
                <input
                  type="checkbox"
                  className="mt-0.5 size-4 shrink-0 accent-prussian"
                  checked={chosen.includes(one.id)}
                  onChange={() =>
                    onObjectives(chosen.includes(one.id) ? chosen.filter((x) => x !== one.id) : [...chosen, one.id])
                  }
                />
                <span>
                  {one.code} {one.wording}
                </span>
              </label>
            ))}
          </PopoverPanel>
        </Popover>
      </div>
      <div>
        <label htmlFor={`${id}-tags`} className="mb-1 block font-medium">
          Tags, divided by commas
        </label>
        <input
          id={`${id}-tags`}
          list={`${id}-known`}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            onTags([
              ...new Set(
                event.target.value
                  .split(',')
                  .map((tag) => tag.trim())
                  .filter(Boolean),
              ),
            ]);
          }}
          className={inputShape}
        />
        <datalist id={`${id}-known`}>
          {known.map((tag) => (
            <option key={tag} value={[...tags.slice(0, -1), tag].join(', ')} />
          ))}
        </datalist>
      </div>
      <SelectField
        label="Passage"
        value={passageId ?? ''}
        onChange={(event) => onPassage(event.target.value || null)}
        hint={
          <FileLink href={passagesHref}>
            {passages.length === 0 ? 'Write a passage' : 'The passages of this bank'}
          </FileLink>
        }
      >
        <option value="">none</option>
        {passages.map((one) => (
          <option key={one.id} value={one.id}>
            {one.shortName}
          </option>
        ))}
      </SelectField>
    </div>
  );
}
