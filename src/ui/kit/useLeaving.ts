'use client';
import { useCallback, useEffect, useRef } from 'react';

/** After so long a page that was asked for has come, or never will. */
const patience = 10_000;

/**
 * Whether the person has just followed a link to another page. What a command leads to once it is done must not call
 * them back from where they are going.
 */
export function useLeaving(): () => boolean {
  const left = useRef(Number.NEGATIVE_INFINITY);
  useEffect(() => {
    const follow = (event: MouseEvent) => {
      const link = (event.target as Element | null)?.closest<HTMLAnchorElement>('a[href]');
      if (link && !link.target && link.pathname !== location.pathname) left.current = performance.now();
    };
    document.addEventListener('click', follow, true);
    return () => document.removeEventListener('click', follow, true);
  }, []);
  return useCallback(() => performance.now() - left.current < patience, []);
}
