'use client';
import { roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { Tried } from '@/server/gradebook/withOtherNumbers';
import { Button } from '../kit/Button';

const mean = (value: number | null) => (value === null ? '–' : `${roundHalfUp(value, 1)} %`);

/** What numbers that are not kept yet would make of the totals, and what to do with them; it stays in view. */
export function TriedBar({
  tried,
  broughtBack,
  busy,
  onKeep,
  onLeave,
}: {
  tried: Tried | null;
  /** Whether it was begun on an earlier visit. */
  broughtBack: boolean;
  busy: boolean;
  onKeep: () => void;
  onLeave: () => void;
}) {
  return (
    <section
      aria-label="Changes not kept yet"
      className="sticky bottom-0 z-20 mt-4 flex flex-wrap items-start gap-x-5 gap-y-2 border-2 border-prussian bg-sheet px-5 py-3"
    >
      <div role="status" className="min-w-64 flex-1">
        {broughtBack && <p className="text-saffron">What you had begun to change here has been brought back.</p>}
        {tried ? (
          <>
            <p>
              Not kept yet. The mean of the totals {said(tried)}; {counted(tried.moved, 'total moves', 'totals move')},{' '}
              {counted(tried.crossing.length, 'student gets', 'students get')} another band.
            </p>
            {tried.crossing.length > 0 && (
              <details>
                <summary className="text-prussian">Who gets another band</summary>
                <ul className="max-h-40 overflow-y-auto text-sm">
                  {tried.crossing.map((one) => (
                    <li key={one.name}>
                      {one.name}: {one.from || 'none'} → {one.to || 'none'}
                    </li>
                  ))}
                </ul>
              </details>
            )}
          </>
        ) : (
          <p>Not kept yet.</p>
        )}
      </div>
      <div className="flex gap-2">
        <Button look="main" disabled={busy} onClick={onKeep}>
          Save the changes
        </Button>
        <Button disabled={busy} onClick={onLeave}>
          Leave it as it was
        </Button>
      </div>
    </section>
  );
}

const said = ({ before, after }: Tried) =>
  mean(before.mean) === mean(after.mean)
    ? `stays ${mean(after.mean)}`
    : `goes from ${mean(before.mean)} to ${mean(after.mean)}`;
