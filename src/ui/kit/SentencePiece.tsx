'use client';
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import type { ReactNode } from 'react';

type Props = {
  /** What the piece says now. */
  says: ReactNode;
  /** What it decides, for people who hear the page. */
  label: string;
  wrong?: boolean;
  /** A piece that offers something further, and says nothing of what is set. */
  quiet?: boolean;
  children: (close: () => void) => ReactNode;
};

/** One underlined piece of a sentence that sets a rule; it opens its own small editor. */
export function SentencePiece({ says, label, wrong, quiet, children }: Props) {
  return (
    <Popover className="inline">
      <PopoverButton
        aria-label={label}
        className={`underline underline-offset-4 hover:bg-prussian-wash ${quiet ? 'text-sm text-ink-2 decoration-dotted' : wrong ? 'text-brick decoration-1 decoration-brick' : 'text-prussian decoration-1 decoration-prussian'}`}
      >
        {says}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom start', gap: 4 }}
        focus
        className="z-30 max-h-96! min-w-48 overflow-y-auto border border-edge bg-sheet p-3 shadow-md"
      >
        {({ close }) => <>{children(() => close())}</>}
      </PopoverPanel>
    </Popover>
  );
}
