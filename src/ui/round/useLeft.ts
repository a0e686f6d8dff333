'use client';
import { useEffect, useState } from 'react';

/** How much of a question's time is left, in milliseconds and as a share of it; null where it has none. */
export type Left = { left: number; share: number };

/**
 * The time of a question as it runs.
 *
 * @param now the server's clock when this was heard
 */
export function useLeft(openedAt: number | null, endsAt: number | null, now: number): Left | null {
  const [ahead, setAhead] = useState(() => now - Date.now());
  const [at, setAt] = useState(now);
  useEffect(() => {
    setAhead(now - Date.now());
    setAt(now);
  }, [now]);
  useEffect(() => {
    if (endsAt === null) return;
    const timer = setInterval(() => setAt(Date.now() + ahead), 250);
    return () => clearInterval(timer);
  }, [endsAt, ahead]);
  if (endsAt === null || openedAt === null) return null;
  const left = Math.max(0, endsAt - at);
  return { left, share: endsAt > openedAt ? Math.min(1, left / (endsAt - openedAt)) : 0 };
}
