import type { ReactNode } from 'react';

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
      {onUndo && (
        <button type="button" className="text-prussian underline" onClick={onUndo}>
          Undo
        </button>
      )}
    </p>
  );
}
