'use client';
import { useEffect, useRef, useState } from 'react';
import { TextButton } from '../kit/TextButton';
import { spokenTime, timeLeft } from './timeLeft';

type Props = {
  deadline: number | null;
  /** How far the server's clock is ahead of this browser's. */
  ahead: number;
  onOver: () => void;
  /** What the time is for, where it is not the whole exam. */
  what?: string;
};

/** The time left by the server's clock. It can be hidden, and is spoken at 10, 5 and 1 minutes. */
export function TimeLeft({ deadline, ahead, onOver, what = '' }: Props) {
  const [left, setLeft] = useState<number | null>(null);
  const [hidden, setHidden] = useState(false);
  const [spoken, setSpoken] = useState('');
  const over = useRef(onOver);
  over.current = onOver;
  useEffect(() => {
    if (deadline === null) {
      setLeft(null);
      return;
    }
    let before = Number.POSITIVE_INFINITY;
    let told = false;
    const tick = () => {
      const now = deadline - (Date.now() + ahead);
      setLeft(now);
      const words = spokenTime(before, now);
      if (words && Number.isFinite(before)) setSpoken(`${words}${what}`);
      before = now;
      if (now <= 0 && !told) {
        told = true;
        over.current();
      }
    };
    tick();
    const timer = setInterval(tick, 500);
    return () => clearInterval(timer);
  }, [deadline, ahead, what]);
  if (left === null) return <span className="text-base text-ink-2">No time limit</span>;
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
      <span className="sr-only" aria-live="assertive">
        {spoken}
      </span>
    </span>
  );
}
