'use client';
import { useEffect, useRef, useState } from 'react';

/** Whether news arrive; else since when they do not, by this browser's clock. */
export type Line = { kind: 'live' } | { kind: 'broken'; since: number };

/** A stream that was silent for so long while its page was asleep is opened anew: the old one may be dead without a word. */
const trustedFor = 1_000;
/** How long to wait before a stream that the server has ended is asked for again. */
const askAgainAfter = 2_000;

/**
 * Hears of a stream of events (HTML Living Standard, section 9.2) for as long as its page is shown. The browser comes back
 * by itself after a break; a page that wakes, or whose network returns, does not wait for that.
 *
 * @param address null for none
 */
export function useStream<News>(address: string | null, onNews: (news: News) => void): Line {
  const [line, setLine] = useState<Line>({ kind: 'live' });
  const heard = useRef(onNews);
  heard.current = onNews;
  useEffect(() => {
    if (address === null) return;
    let source: EventSource | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let openedAt = 0;
    const open = () => {
      clearTimeout(timer);
      source?.close();
      openedAt = Date.now();
      const own = new EventSource(address);
      source = own;
      own.onmessage = (event) => {
        if (source !== own) return;
        setLine({ kind: 'live' });
        heard.current(JSON.parse(String(event.data)) as News);
      };
      own.onerror = () => {
        if (source !== own) return;
        setLine((before) => (before.kind === 'broken' ? before : { kind: 'broken', since: Date.now() }));
        // Refused, the browser does not try again by itself.
        if (own.readyState === EventSource.CLOSED) timer = setTimeout(open, askAgainAfter);
      };
    };
    const wake = () => {
      if (document.visibilityState === 'visible' && Date.now() - openedAt > trustedFor) open();
    };
    open();
    window.addEventListener('online', wake);
    window.addEventListener('pageshow', wake);
    document.addEventListener('visibilitychange', wake);
    return () => {
      clearTimeout(timer);
      source?.close();
      source = null;
      window.removeEventListener('online', wake);
      window.removeEventListener('pageshow', wake);
      document.removeEventListener('visibilitychange', wake);
    };
  }, [address]);
  return line;
}
