'use client';
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { useMemo, useState } from 'react';
import { type CategoryNode, nodePathNames } from '@/core/bank/categoryTree';
import { Field, type FieldProps, inputShape } from '../kit/Field';
import { holds } from '../kit/Find';

type Props = Omit<FieldProps, 'hint'> & {
  /** The whole tree, which the names are made of. */
  categories: readonly CategoryNode[];
  /** Those that can be picked; all unless given. */
  among?: readonly CategoryNode[];
  value: string;
  onPick: (categoryId: string) => void;
};

/** More need not be shown: one letter further, and they are fewer. */
const mostShown = 60;

/** One category, found by typing any words of its name or of those above it. */
export function CategoryField({ categories, among = categories, value, onPick, ...field }: Props) {
  const [find, setFind] = useState('');
  const names = useMemo(() => nodePathNames(categories), [categories]);
  const found = among.filter((one) => holds(find, names.get(one.id)));
  return (
    <Field {...field}>
      {(given) => (
        <Combobox
          immediate
          value={value}
          onChange={(next: string | null) => next && onPick(next)}
          onClose={() => setFind('')}
        >
          <ComboboxInput
            {...given}
            autoComplete="off"
            className={inputShape}
            displayValue={(id: string) => names.get(id) ?? ''}
            onFocus={(event) => event.currentTarget.select()}
            onChange={(event) => setFind(event.target.value)}
          />
          <ComboboxOptions
            anchor={{ to: 'bottom start', gap: 2 }}
            className="z-50 max-h-72! w-(--input-width) min-w-64 overflow-y-auto border border-edge bg-sheet shadow-md empty:invisible"
          >
            {found.slice(0, mostShown).map((one) => (
              <ComboboxOption
                key={one.id}
                value={one.id}
                className="min-h-8 px-2.5 py-1 data-focus:bg-prussian-wash data-selected:font-medium"
              >
                {find.trim() === '' ? (
                  <span style={{ paddingLeft: one.depth * 14 }}>{one.name}</span>
                ) : (
                  names.get(one.id)
                )}
              </ComboboxOption>
            ))}
          </ComboboxOptions>
        </Combobox>
      )}
    </Field>
  );
}
