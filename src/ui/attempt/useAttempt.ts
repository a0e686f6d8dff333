'use client';
import { useEffect, useState } from 'react';
import { browserStore } from '../kit/browserStore';
import { AttemptPage, type PageState, pulseEvery } from './attemptPage';
import type { TakingPort } from './takingPort';

/** How often a page looks at its clock, in milliseconds. */
const tickEvery = 500;

/** What a page knows before it has heard anything. */
const begun: PageState = {
  paper: null,
  answers: {},
  keeping: { kind: 'opening' },
  standing: null,
  superseded: false,
  asides: [],
  notices: [],
  ahead: 0,
  timeZone: 'UTC',
  place: 1,
  handing: { kind: 'no' },
  shut: null,
};

/**
 * The attempt behind a taking page, and what is known of it now: opened once the page is shown, told of the browser's
 * clock and of its network.
 *
 * @param port must stay the same while the page is open
 */
export function useAttempt(port: TakingPort): { state: PageState; attempt: AttemptPage | null } {
  const [state, setState] = useState<PageState>(begun);
  const [attempt, setAttempt] = useState<AttemptPage | null>(null);
  useEffect(() => {
    const own = new AttemptPage({
      port,
      store: browserStore(),
      clock: () => Date.now(),
      later: (call, pause) => setTimeout(call, pause),
      onChange: setState,
    });
    setAttempt(own);
    void own.open();
    const beat = () => void own.beat();
    const pulses = setInterval(beat, pulseEvery);
    const ticks = setInterval(() => own.tick(), tickEvery);
    window.addEventListener('online', beat);
    document.addEventListener('visibilitychange', beat);
    return () => {
      own.close();
      clearInterval(pulses);
      clearInterval(ticks);
      window.removeEventListener('online', beat);
      document.removeEventListener('visibilitychange', beat);
    };
  }, [port]);
  return { state, attempt };
}
