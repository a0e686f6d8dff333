import type { ReactNode } from 'react';
import { folded } from '@/core/base/words';
import { inputShape } from './Field';

type Props = {
  label: string;
  /** What is looked through; the label unless it takes more words. */
  placeholder?: string;
  value: string;
  onChange: (value: string) => void;
  /** How many of how many are shown. */
  said?: ReactNode;
  /** What else stands in the line. */
  children?: ReactNode;
};

/** The line above a list in which it is searched. */
export const Find = ({ label, placeholder = label, value, onChange, said, children }: Props) => (
  <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line p-2">
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className={`${inputShape} max-w-sm`}
    />
    {said && <span className="text-sm text-ink-2">{said}</span>}
    {children}
  </div>
);

/** A list longer than this is searched. */
export const fewEnoughToSee = 8;

/** Whether every word that is looked for stands in one of the texts, whatever the case and the accents. */
export const holds = (wanted: string, ...texts: (string | null | undefined)[]): boolean => {
  const words = folded(wanted).split(/\s+/).filter(Boolean);
  if (words.length === 0) return true;
  const all = texts.map((text) => folded(text ?? ''));
  return words.every((word) => all.some((text) => text.includes(word)));
};
