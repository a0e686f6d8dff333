'use client';
import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';
import { browserStore } from '../kit/browserStore';
import { Journal, toBytes } from './journal';

type Kept = { userId: string; journal: Journal };

const Keeping = createContext<Kept | null>(null);

/** Whose typing is kept within, and the key to it. */
export function KeepingFor({
  userId,
  journalKey,
  children,
}: {
  userId: string;
  journalKey: string;
  children: ReactNode;
}) {
  const [kept] = useState<Kept | null>(() =>
    typeof window === 'undefined'
      ? null
      : { userId, journal: new Journal(browserStore(), { userId, key: toBytes(journalKey) }, () => Date.now()) },
  );
  useEffect(() => {
    // Not every browser says when it is idle; there the first key takes a little longer.
    if (!kept || typeof requestIdleCallback === 'undefined') return;
    const waiting = requestIdleCallback(() => kept.journal.warm());
    return () => cancelIdleCallback(waiting);
  }, [kept]);
  return <Keeping.Provider value={kept}>{children}</Keeping.Provider>;
}

/** Where what is typed here is kept; null on a page of nobody, and on the server. */
export const useKeeping = (): Kept | null => useContext(Keeping);
