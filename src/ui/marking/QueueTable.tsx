'use client';
import { useState } from 'react';
import { durationText, type Instant } from '@/core/base/time';
import type { QueueRow } from '@/server/marking/markingQueue';
import type { SecondQueueRow } from '@/server/marking/secondMarking';
import { Button } from '../kit/Button';
import { Link } from '../kit/Link';
import { Sheet, State } from '../kit/Page';
import { TextLink } from '../kit/TextLink';

type Props = {
  base: string;
  rows: QueueRow[];
  /** What this person marks a second time. */
  second: SecondQueueRow[];
  now: Instant;
  /** Whether they may set and settle second marking. */
  maySet: boolean;
};

/** What waits to be marked by hand, sitting by sitting: how much, for how long, and by whom. */
export function QueueTable({ base, rows, second, now, maySet }: Props) {
  const [all, setAll] = useState(() => rows.every((row) => row.waiting === 0));
  const shown = all ? rows : rows.filter((row) => row.waiting > 0);
  const sittings = [...new Map(shown.map((row) => [row.sittingId, row])).values()];
  const done = rows.filter((row) => row.waiting === 0).length;
  return (
    <div className="space-y-4">
      {sittings.map((sitting) => {
        const own = shown.filter((row) => row.sittingId === sitting.sittingId);
        return (
          <Sheet key={sitting.sittingId} label={sitting.sittingTitle}>
            <div className="flex flex-wrap items-baseline gap-x-4 border-b border-line px-4 py-2">
              <h2 className="text-lg">{sitting.sittingTitle}</h2>
              <span className="mr-auto text-sm text-ink-2">
                {sitting.markers.length
                  ? `marked by the instructors and ${sitting.markers.join(', ')}`
                  : 'marked by the instructors'}
              </span>
              {maySet && <TextLink href={`${base}/${sitting.sittingId}/second`}>Second marker</TextLink>}
              <TextLink href={`${base}/${sitting.sittingId}/offline`}>Offline</TextLink>
              {own.length > 1 && <TextLink href={`${base}/${sitting.sittingId}/papers`}>Paper by paper</TextLink>}
            </div>
            <ul>
              {own.map((row) => (
                <li key={row.questionId} className="border-b border-line last:border-b-0">
                  <Link
                    href={`${base}/${row.sittingId}/${row.questionId}`}
                    className="grid grid-cols-[1fr_10rem_14rem_7rem] items-center gap-4 px-4 py-2 hover:bg-prussian-wash"
                  >
                    <span className="truncate font-serif text-lg">{row.questionName}</span>
                    <span className="text-sm text-ink-2">
                      {row.oldest !== null && `longest: ${durationText(Math.max(60_000, now - row.oldest))}`}
                    </span>
                    <span className="flex items-center gap-2 text-sm text-ink-2 tabular-nums">
                      <span className="h-1.5 flex-1 bg-plum-wash">
                        <span
                          className="block h-full bg-plum"
                          style={{ width: `${(row.marked / (row.marked + row.waiting)) * 100}%` }}
                        />
                      </span>
                      {row.marked} of {row.marked + row.waiting} marked
                    </span>
                    <span className="text-right">
                      {row.waiting > 0 ? (
                        <State ink="hand">{row.waiting} waiting</State>
                      ) : (
                        <State ink="done">all marked</State>
                      )}
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </Sheet>
        );
      })}
      {second.length > 0 && (
        <Sheet label="Second marking">
          <h2 className="border-b border-line px-4 py-2 text-lg">
            You mark a second time, without seeing the first marks
          </h2>
          <ul>
            {second.map((row) => (
              <li key={`${row.sittingId}/${row.questionId}`} className="border-b border-line last:border-b-0">
                <Link
                  href={`${base}/${row.sittingId}/${row.questionId}/second`}
                  className="flex flex-wrap items-baseline gap-x-4 px-4 py-2 hover:bg-prussian-wash"
                >
                  <span className="font-serif text-lg">{row.questionName}</span>
                  <span className="mr-auto text-sm text-ink-2">{row.sittingTitle}</span>
                  {row.waiting > 0 ? (
                    <State ink="hand">{row.waiting} waiting</State>
                  ) : (
                    <State ink="done">all marked</State>
                  )}
                </Link>
              </li>
            ))}
          </ul>
        </Sheet>
      )}
      {done > 0 && done < rows.length && (
        <Button look="quiet" aria-pressed={all} onClick={() => setAll(!all)}>
          {all ? 'Only what waits' : `Show what is marked too (${done})`}
        </Button>
      )}
    </div>
  );
}
