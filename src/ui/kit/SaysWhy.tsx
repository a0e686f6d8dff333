'use client';
import { type KeyboardEvent, type MouseEvent, type ReactNode, useEffect, useState } from 'react';

/** What the reason takes at most, in pixels. */
const room = { width: 256, height: 88 };

/**
 * Says beside a button why it cannot be used when it is pressed all the same: a tooltip is never seen on a touch screen,
 * nor by who works by keyboard. It goes with the next press, with Escape, or when the focus goes on.
 */
export function SaysWhy({
  why,
  className = '',
  children,
}: {
  why: string | null | undefined;
  className?: string;
  children: (tell: (event: MouseEvent<HTMLElement>) => void) => ReactNode;
}) {
  const [place, setPlace] = useState<string | null>(null);
  const hide = () => setPlace(null);
  useEffect(() => {
    if (!place) return;
    const away = () => setPlace(null);
    addEventListener('pointerdown', away);
    return () => removeEventListener('pointerdown', away);
  }, [place]);
  const tell = (event: MouseEvent<HTMLElement>) => {
    const { left, bottom } = event.currentTarget.getBoundingClientRect();
    const across = left + room.width > innerWidth ? 'right-0' : 'left-0';
    setPlace(`${across} ${bottom + room.height > innerHeight ? 'bottom-full mb-1' : 'top-full mt-1'}`);
  };
  const shown = why && place;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only listens to what the button inside lets through.
    <span
      className={`relative inline-flex ${className}`}
      onBlur={hide}
      onKeyDown={(event: KeyboardEvent) => event.key === 'Escape' && hide()}
    >
      {children(tell)}
      <span
        aria-live="polite"
        className={
          shown
            ? `${place} absolute z-30 w-max max-w-64 border border-edge bg-sheet px-3 py-2 text-left text-sm text-ink shadow-md`
            : undefined
        }
      >
        {shown ? why : null}
      </span>
    </span>
  );
}
