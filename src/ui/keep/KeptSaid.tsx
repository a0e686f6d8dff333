'use client';
import { useId, useState } from 'react';
import { type Clash, withTheirs } from '@/core/base/merge';
import { counted } from '@/core/base/words';
import { Button } from '../kit/Button';
import { Unkept } from '../kit/Unkept';
import type { KeepState } from './keeper';

/** How what is typed stands, in words that go on a sentence. */
export function keptSaid(state: KeepState): string {
  switch (state.kind) {
    case 'kept':
      return 'saved';
    case 'typed':
      return 'not saved yet';
    case 'saving':
      return 'saving …';
    case 'waiting':
      return state.why === 'signed-out'
        ? 'not saved: you are signed out. Sign in in another tab, and it goes on by itself'
        : 'not saved: no connection. It is kept in this browser, and tried again by itself';
    case 'refused':
      return 'not saved';
    case 'clash':
      return 'not saved: somebody else has changed the same';
  }
}

/**
 * Asks before a page is left on which something waits that is not on the server. What saves itself and only rests for a moment
 * is sent; what its person saves (`byHand`) waits from the first letter.
 */
export function KeptHere({ state, byHand = false }: { state: KeepState; byHand?: boolean }) {
  const waits =
    (byHand && state.kind === 'typed') ||
    state.kind === 'waiting' ||
    state.kind === 'refused' ||
    state.kind === 'clash';
  return (
    <Unkept on={waits} title="Leave before it is saved?" act="Leave it unfinished">
      What you changed here is not on the server yet. It stays in this browser, for you alone; your Desk leads back to
      it.
    </Unkept>
  );
}

type ClashProps<T> = {
  value: T;
  clashes: readonly Clash[];
  /** What stands at a place, and what a value there says, in words. */
  placeSaid: (path: readonly string[]) => string;
  valueSaid: (value: unknown) => string;
  onSettle: (value: T) => void;
};

/** Two people changed the same places: both are shown side by side, and whoever comes second says what is to stand. */
export function ClashSheet<T>({ value, clashes, placeSaid, valueSaid, onSettle }: ClashProps<T>) {
  const name = useId();
  const [theirs, setTheirs] = useState<ReadonlySet<number>>(new Set());
  const pick = (i: number, taken: boolean) =>
    setTheirs((before) => new Set(taken ? [...before, i] : [...before].filter((one) => one !== i)));
  return (
    <section aria-label="Changed by somebody else" className="mb-4 border-2 border-saffron bg-saffron-wash px-5 py-3">
      <h2 className="text-lg">Somebody else has changed the same</h2>
      <p>
        All else that you both changed is joined already. {counted(clashes.length, 'place')}{' '}
        {clashes.length === 1 ? 'waits' : 'wait'} for you; nothing is overwritten before you say so.
      </p>
      <ul className="mt-2 space-y-2">
        {clashes.map((clash, i) => (
          <li key={clash.path.join('/')}>
            <fieldset className="border border-line bg-sheet px-3 py-2">
              <legend className="px-1 font-medium">{placeSaid(clash.path)}</legend>
              <div className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
                {([false, true] as const).map((taken) => (
                  <label key={String(taken)} className="flex min-w-0 items-start gap-2">
                    <input
                      type="radio"
                      className="mt-1.5"
                      name={`${name}/${i}`}
                      checked={theirs.has(i) === taken}
                      onChange={() => pick(i, taken)}
                    />
                    <span className="min-w-0 break-words">
                      <span className="text-ink-2">{taken ? 'Theirs: ' : 'Mine: '}</span>
                      {valueSaid(taken ? clash.theirs : clash.mine)}
                    </span>
                  </label>
                ))}
              </div>
            </fieldset>
          </li>
        ))}
      </ul>
      <Button
        look="main"
        className="mt-3"
        onClick={() =>
          onSettle(
            withTheirs(
              value,
              clashes.filter((_, i) => theirs.has(i)),
            ),
          )
        }
      >
        Save it so
      </Button>
    </section>
  );
}
