import type { ReactNode } from 'react';
import { TextButton } from './TextButton';

/** What has just been done, and the way to take it back where there is one. */
export function Done({
  children,
  onUndo,
  className = '',
}: {
  children: ReactNode;
  onUndo: (() => void) | null;
  className?: string;
}) {
  return (
    <p
      role="status"
      className={`flex items-center justify-between gap-3 bg-prussian-wash px-3 py-1.5 text-sm ${className}`}
    >
      <span>{children}</span>
      {onUndo && <TextButton onClick={onUndo}>Undo</TextButton>}
    </p>
  );
}
