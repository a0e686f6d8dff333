import type { FormEvent, ReactNode } from 'react';
import { inputShape } from '../../kit/Field';

/** How a field looks that stands in a sentence. */
export const piece = `${inputShape.replace('w-full ', '')} mx-1 inline-block`;

/** A number inside a sentence. */
export const Num = ({ label, value, onChange }: { label: string; value: string; onChange: (text: string) => void }) => (
  <input
    aria-label={label}
    inputMode="decimal"
    className={`${piece} w-20 text-right tabular-nums`}
    value={value}
    onChange={(event) => onChange(event.target.value)}
  />
);

/** A sentence whose pieces are filled in, and then done. */
export function Sentence({ onSubmit, children }: { onSubmit: () => void; children: ReactNode }) {
  return (
    <form
      className="leading-10"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        onSubmit();
      }}
    >
      {children}
    </form>
  );
}
