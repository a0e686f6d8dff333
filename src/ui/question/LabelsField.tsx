'use client';
import { choiceLabel } from '@/core/question/choiceLabel';
import { SelectField } from '../kit/Field';

/** How choices can be labelled, in the order of use. */
const common = ['A', 'a', '1', 'none'] as const;

const sample = (labels: string): string =>
  labels === 'none' ? 'No labels' : `${[0, 1, 2].map((place) => choiceLabel(labels, place)).join(', ')} …`;

/** How choices are labelled: the usual ways, and letters from any other letter on. */
export function LabelsField({
  label,
  usual,
  labels,
  onChange,
}: {
  label: string;
  usual: string;
  labels: string | undefined;
  onChange: (labels: string | undefined) => void;
}) {
  const others = [...'BCDEFGHIJKLMNOPQRSTUVWXYZ'].flatMap((letter) => [letter, letter.toLowerCase()]);
  return (
    <SelectField label={label} value={labels ?? ''} onChange={(event) => onChange(event.target.value || undefined)}>
      <option value="">{usual}</option>
      {[...common, ...others].map((one) => (
        <option key={one} value={one}>
          {sample(one)}
        </option>
      ))}
    </SelectField>
  );
}
