'use client';
import { useState } from 'react';
import type { Problem } from '@/core/base/result';
import { type ItemChange, itemChange, lossOf } from '@/core/exam/items/changeItems';
import type { Item } from '@/core/exam/items/item';
import { Button } from '../../kit/Button';
import { Problems } from '../../kit/Problems';

type Do = (change: ItemChange) => Promise<Problem[] | null>;

export type ToolProps = { items: readonly Item[]; doToMany: Do };

/** Sends what a sentence says, once it can be understood; what is wrong stands below it and nothing typed is lost. */
export function useTool(items: readonly Item[], doToMany: Do) {
  const [asking, setAsking] = useState<{ change: ItemChange; said: string; loss: string; after?: () => void } | null>(
    null,
  );
  const [problems, setProblems] = useState<Problem[]>([]);
  const [done, setDone] = useState('');
  const [busy, setBusy] = useState(false);
  const make = async (change: ItemChange, said: string, after?: () => void) => {
    setAsking(null);
    setBusy(true);
    const wrong = await doToMany(change);
    setBusy(false);
    setProblems(wrong ?? []);
    setDone(wrong ? '' : said);
    if (!wrong) after?.();
  };
  const perform = async (change: unknown, said: string, after?: () => void): Promise<void> => {
    setDone('');
    setAsking(null);
    const parsed = itemChange.safeParse(change);
    if (!parsed.success) {
      setProblems([{ code: 'bad-input', message: parsed.error.issues[0]?.message ?? 'This cannot be understood.' }]);
      return;
    }
    const loss = lossOf(items, parsed.data);
    if (loss) setAsking({ change: parsed.data, said, loss, after });
    else await make(parsed.data, said, after);
  };
  const foot = (
    <>
      <Problems problems={problems} className="mt-2" />
      {asking && (
        <div role="alert" className="mt-2 flex flex-wrap items-center gap-2 bg-saffron-wash px-3 py-2 leading-6">
          <span className="mr-auto">{asking.loss}</span>
          <Button look="grave" disabled={busy} onClick={() => void make(asking.change, asking.said, asking.after)}>
            Do it
          </Button>
          <Button onClick={() => setAsking(null)}>Leave them</Button>
        </div>
      )}
      <p role="status" className="mt-1 text-sm text-pine">
        {problems.length === 0 && done}
      </p>
    </>
  );
  return { perform, foot, busy };
}
