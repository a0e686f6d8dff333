'use client';
import { useEffect, useRef, useState } from 'react';
import { type SeenClock, spokenTime, timeLeft } from '@/core/attempt/spokenTime';
import { TextButton } from '../kit/TextButton';

type Props = {
  deadline: number | null;
  /** How far the server's clock is ahead of this browser's. */
  ahead: number;
  onOver?: () => void;
  /** What the time is for, where it is not the whole exam. */
  what?: string;
};

/** What was spoken is taken away after so long, so that nobody reads later what is no longer so. */
const spokenFor = 10_000;

/**
 * The time left by the server's clock. It can be hidden, and is spoken at 10, 5 and 1 minutes, when it is over, and when it
 * is made longer or shorter.
 */
export function TimeLeft({ deadline, ahead, onOver, what = '' }: Props) {
  const [left, setLeft] = useState<number | null>(null);
  const [hidden, setHidden] = useState(false);
  const [spoken, setSpoken] = useState('');
  const over = useRef(onOver);
  over.current = onOver;
  /** Kept over every pulse: what was seen last, whatever has been heard since. */
  const seen = useRef<SeenClock>(null);
  useEffect(() => {
    if (deadline === null) {
      setLeft(null);
      seen.current = null;
      return;
    }
    const tick = () => {
      const now = Date.now() + ahead;
      const words = spokenTime(seen.current, deadline, now, what);
      const wasOver = seen.current !== null && seen.current.left <= 0 && seen.current.deadline === deadline;
      seen.current = { deadline, left: deadline - now };
      setLeft(deadline - now);
      if (words) setSpoken(words);
      if (deadline <= now && !wasOver) over.current?.();
    };
    tick();
    const timer = setInterval(tick, 500);
    return () => clearInterval(timer);
  }, [deadline, ahead, what]);
  useEffect(() => {
    if (!spoken) return;
    const timer = setTimeout(() => setSpoken(''), spokenFor);
    return () => clearTimeout(timer);
  }, [spoken]);
  const live = (
    <span className="sr-only" aria-live="assertive">
      {spoken}
    </span>
  );
  if (left === null) return <span className="text-base text-ink-2">No time limit{live}</span>;
  const ink = left <= 60_000 ? 'text-brick' : left <= 300_000 ? 'text-saffron' : 'text-ink';
  return (
    <span className="flex items-baseline gap-2 text-base">
      {hidden && left > 60_000 ? (
        <span className="text-ink-2">Time hidden</span>
      ) : (
        <span className={`font-medium tabular-nums ${ink}`}>
          {timeLeft(left)} left{what}
        </span>
      )}
      {what === '' && (
        <TextButton className="text-sm" onClick={() => setHidden(!hidden)}>
          {hidden ? 'Show' : 'Hide'}
          <span className="sr-only"> the time left</span>
        </TextButton>
      )}
      {live}
    </span>
  );
}
