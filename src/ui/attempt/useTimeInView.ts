import { useCallback, useEffect, useRef } from 'react';

/** Longer than this at one question without leaving it or doing anything is absence, not work. */
const longestStretch = 30 * 60_000;

/**
 * Counts how long each question stands alone in view: the time in which its page holds nothing else and the window is
 * looked at. The sums go with the hand-in, so that exams learn how long their questions take.
 *
 * @param slotId the question that stands alone on the page, or null
 * @returns the sums in milliseconds, by slot
 */
export function useTimeInView(slotId: string | null): () => Record<string, number> {
  const sums = useRef<Record<string, number>>({});
  const since = useRef<{ slotId: string; at: number } | null>(null);
  const settle = useCallback(() => {
    const running = since.current;
    if (!running) return;
    const stretch = Math.min(longestStretch, performance.now() - running.at);
    sums.current[running.slotId] = (sums.current[running.slotId] ?? 0) + stretch;
    since.current = { ...running, at: performance.now() };
  }, []);
  useEffect(() => {
    const look = () => {
      settle();
      since.current = slotId && !document.hidden ? { slotId, at: performance.now() } : null;
    };
    look();
    document.addEventListener('visibilitychange', look);
    return () => {
      document.removeEventListener('visibilitychange', look);
      settle();
      since.current = null;
    };
  }, [slotId, settle]);
  return useCallback(() => {
    settle();
    return Object.fromEntries(Object.entries(sums.current).map(([id, time]) => [id, Math.round(time)]));
  }, [settle]);
}
