'use client';
import { ArrowDown, ArrowUp, X } from 'lucide-react';
import type { ReactNode } from 'react';

/** The look of the small buttons at the end of a row. */
export const rowTool = 'p-1.5 text-ink-2 hover:bg-prussian-wash hover:text-prussian disabled:opacity-30';

type Props = {
  /** What is moved, for people who hear the page: "line 1.2". */
  name: string;
  /** Null at the ends of the list. */
  onUp: (() => void) | null;
  onDown: (() => void) | null;
  /** Null while it cannot be taken out; absent where it never can. */
  onRemove?: (() => void) | null;
  /** What else stands among the buttons. */
  children?: ReactNode;
  /** What removing takes along, where that is more than the row. */
  removing?: string;
};

/** Up, down and out, at the end of a row. */
export const MoveButtons = ({ name, onUp, onDown, onRemove, removing = 'Remove', children }: Props) => (
  <>
    <button
      type="button"
      className={rowTool}
      disabled={!onUp}
      onClick={() => onUp?.()}
      aria-label={`Move ${name} up`}
      title="Move up"
    >
      <ArrowUp size={15} aria-hidden="true" />
    </button>
    <button
      type="button"
      className={rowTool}
      disabled={!onDown}
      onClick={() => onDown?.()}
      aria-label={`Move ${name} down`}
      title="Move down"
    >
      <ArrowDown size={15} aria-hidden="true" />
    </button>
    {children}
    {onRemove !== undefined && (
      <button
        type="button"
        className={rowTool}
        disabled={!onRemove}
        onClick={() => onRemove?.()}
        aria-label={`Remove ${name}`}
        title={removing}
      >
        <X size={15} aria-hidden="true" />
      </button>
    )}
  </>
);
