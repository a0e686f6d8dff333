import type { ReactNode } from 'react';
import { roundHalfUp } from '@/core/base/rounding';

/** A name with its mean credit as a bar and a number. */
export const ShareBar = ({ name, percent, of }: { name: ReactNode; percent: number | null; of: number }) => (
  <span className="grid grid-cols-[1fr_7rem_6.5rem] items-center gap-3">
    <span className="min-w-0 truncate">{name}</span>
    <span className="h-2 bg-paper">
      <span className="block h-2 bg-prussian" style={{ width: `${percent ?? 0}%` }} />
    </span>
    <span className="text-right whitespace-nowrap tabular-nums">
      {percent === null ? '–' : `${roundHalfUp(percent, 0)} %`} <span className="text-ink-2">of {of}</span>
    </span>
  </span>
);
