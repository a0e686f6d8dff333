'use client';
import { timeLeft } from '@/core/attempt/spokenTime';
import { useLeft } from './useLeft';

type Props = { openedAt: number | null; endsAt: number | null; now: number; large?: boolean };

/** The time of a question as a line that shortens, with its words. */
export function TimeLine({ openedAt, endsAt, now, large = false }: Props) {
  const left = useLeft(openedAt, endsAt, now);
  if (!left) return null;
  return (
    <div className="flex items-center gap-3">
      <div className={`${large ? 'h-[1vmin]' : 'h-1'} min-w-0 flex-1 bg-line`} aria-hidden="true">
        <div className="h-full bg-prussian" style={{ width: `${left.share * 100}%` }} />
      </div>
      <span role="timer" className={`tabular-nums ${large ? 'text-[4vmin]' : 'text-base'}`}>
        {timeLeft(left.left)}
      </span>
    </div>
  );
}
