'use client';
import { useEffect, useRef, useState } from 'react';
import { TextButton } from '../kit/TextButton';

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && target.type !== 'radio' && target.type !== 'checkbox'));

const isChoice = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement && (target.type === 'radio' || target.type === 'checkbox');

type Props = { onwardOnly: boolean; onNext: () => void; onPrevious: () => void };

/**
 * The keys of the taking page: from a choice to the next question by Enter, and this list of them by the question mark.
 * Where there is no way back, Enter leads to the button that goes on, and presses it only the second time.
 */
export function TakingKeys({ onwardOnly, onNext, onPrevious }: Props) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.altKey || event.metaKey) return;
      if (event.key === '?' && !isTyping(event.target)) {
        event.preventDefault();
        setOpen((before) => !before);
      } else if (event.key === 'Escape') setOpen(false);
      else if (event.key === 'Enter' && (isChoice(event.target) || (event.ctrlKey && isTyping(event.target)))) {
        event.preventDefault();
        if (onwardOnly) document.querySelector<HTMLElement>('[data-next]')?.focus();
        else if (event.shiftKey) onPrevious();
        else onNext();
      }
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, [onwardOnly, onNext, onPrevious]);
  const list = useRef<HTMLDListElement>(null);
  // It stands at the foot of the page: whoever asks for it by its key sees it.
  useEffect(() => {
    if (open) list.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  return (
    <div className="mt-8 border-t border-line pt-2 text-sm text-ink-2">
      <TextButton aria-expanded={open} onClick={() => setOpen(!open)}>
        Keys of this page <kbd className="font-mono">?</kbd>
      </TextButton>
      {open && (
        <dl ref={list} className="mt-1 scroll-mb-20 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
          <Key name="Tab">to the next field or button; back with Shift</Key>
          <Key name="Arrows, Space">choose an answer</Key>
          {onwardOnly ? (
            <Key name="Enter">from a choice to the button that goes on; once more goes on</Key>
          ) : (
            <>
              <Key name="Enter">from a choice to the next question; back with Shift</Key>
              <Key name="Ctrl+Enter">the same from a text</Key>
            </>
          )}
          <Key name="Left, Right">along the paper, once you are on it; Enter goes to the question</Key>
          <Key name="?">this list; Escape closes it</Key>
        </dl>
      )}
    </div>
  );
}

const Key = ({ name, children }: { name: string; children: string }) => (
  <>
    <dt>
      <kbd className="font-mono">{name}</kbd>
    </dt>
    <dd>{children}</dd>
  </>
);
