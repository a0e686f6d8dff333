'use client';
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import type { ReactNode } from 'react';

type Props = {
  /** What the piece says now. */
  says: ReactNode;
  /** What it decides, for people who hear the page. */
  label: string;
  wrong?: boolean;
  children: (close: () => void) => ReactNode;
};

/** One underlined piece of a sentence that sets a rule; it opens its own small editor. */
export function SentencePiece({ says, label, wrong, children }: Props) {
  return (
    <Popover className="inline">
      <PopoverButton
        aria-label={label}
        className={`underline decoration-1 underline-offset-4 hover:bg-prussian-wash ${wrong ? 'text-brick decoration-brick' : 'text-prussian decoration-prussian'}`}
      >
        {says}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom start', gap: 4 }}
        focus
        className="z-30 min-w-48 border border-edge bg-sheet p-3 shadow-md"
      >
        {({ close }) => <>{children(() => close())}</>}
      </PopoverPanel>
    </Popover>
  );
}
