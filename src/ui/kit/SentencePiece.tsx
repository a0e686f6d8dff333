'use client';
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { type ReactNode, useEffect, useRef, useState } from 'react';

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

const look = ({ wrong, quiet }: Props) =>
  `underline underline-offset-4 hover:bg-prussian-wash ${quiet ? 'text-sm text-ink-2 decoration-dotted' : wrong ? 'text-brick decoration-1 decoration-brick' : 'text-prussian decoration-1 decoration-prussian'}`;

/**
 * One underlined piece of a sentence that sets a rule; it opens its own small editor. A page may have a thousand of them:
 * until it is opened for the first time a piece is a button and nothing else, so that it costs no key typed elsewhere.
 */
export function SentencePiece(props: Props) {
  const [used, setUsed] = useState(false);
  if (used) return <UsedPiece {...props} />;
  return (
    <button
      type="button"
      aria-label={props.label}
      aria-expanded={false}
      className={look(props)}
      onClick={() => setUsed(true)}
    >
      {props.says}
    </button>
  );
}

/** A piece from the first opening on: it opens as it comes. */
function UsedPiece(props: Props) {
  const { says, label, children } = props;
  const button = useRef<HTMLButtonElement>(null);
  const hasOpened = useRef(false);
  useEffect(() => {
    if (hasOpened.current) return;
    hasOpened.current = true;
    button.current?.click();
  }, []);
  return (
    <Popover as="span" className="inline">
      <PopoverButton ref={button} aria-label={label} className={look(props)}>
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
