'use client';
import { useEffect, useState } from 'react';
import type { Instant } from '@/core/base/time';

/**
 * The server's clock as it goes on, to the second.
 *
 * @param begun what it said when the page was made
 */
export function useServerNow(begun: Instant): Instant {
  const [now, setNow] = useState(begun);
  useEffect(() => {
    const ahead = begun - Date.now();
    setNow(begun);
    const timer = setInterval(() => setNow(Date.now() + ahead), 1_000);
    return () => clearInterval(timer);
  }, [begun]);
  return now;
}
