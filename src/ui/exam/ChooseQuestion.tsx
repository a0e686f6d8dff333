'use client';
import { useEffect, useState } from 'react';
import { counted } from '@/core/base/words';
import { questionTypeNames } from '@/core/question/definitions';
import { Button } from '../kit/Button';
import { inputShape } from '../kit/Field';
import { holds } from '../kit/Find';
import type { Choosable } from './PoolPieces';

const mostShown = 40;

/** Finds a question of the bank for a fixed line. */
export function ChooseQuestion({
  choosable,
  needChoosable,
  taken,
  onChoose,
  onClose,
}: {
  choosable: Choosable[];
  needChoosable?: () => void;
  taken: Set<string>;
  onChoose: (question: Choosable) => void;
  onClose: () => void;
}) {
  const [find, setFind] = useState('');
  useEffect(() => needChoosable?.(), [needChoosable]);
  const found = choosable.filter((one) => holds(find, one.name, one.category));
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: Escape closes the list from anywhere inside it
    <div className="border-t border-line px-4 py-3" onKeyDown={(event) => event.key === 'Escape' && onClose()}>
      <div className="flex gap-2">
        <input
          ref={(field) => field?.focus()}
          type="search"
          aria-label="Find a question"
          placeholder="Find a question by name or category"
          value={find}
          onChange={(event) => setFind(event.target.value)}
          className={inputShape}
        />
        <Button onClick={onClose}>Done</Button>
      </div>
      <p className="mt-1 text-sm text-ink-2">
        {counted(found.length, 'question')}
        {found.length > mostShown && `, the first ${mostShown} are shown`}
      </p>
      <ul className="mt-1 max-h-64 overflow-y-auto border-t border-line">
        {found.slice(0, mostShown).map((one) => (
          <li key={one.id} className="border-b border-line">
            <button
              type="button"
              disabled={taken.has(one.id)}
              onClick={() => onChoose(one)}
              className="flex w-full gap-3 px-2 py-1.5 text-left -outline-offset-2 hover:bg-prussian-wash disabled:text-ink-2"
            >
              <span className="min-w-0 flex-1 truncate">{one.name}</span>
              <span className="shrink-0 text-sm text-ink-2">
                {taken.has(one.id)
                  ? 'is in this part'
                  : `${one.category} · ${questionTypeNames[one.type].toLowerCase()}`}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
