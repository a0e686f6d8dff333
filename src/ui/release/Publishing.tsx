'use client';
import { useState } from 'react';
import { waitingCount, waitingSaid } from '@/core/attempt/waiting';
import { pointsText } from '@/core/base/rounding';
import { counted, listed, oneOrMany } from '@/core/base/words';
import type { PublishingNumbers as Numbers } from '@/core/release/publishingNumbers';
import type { ResultsPage as Results, ResultRow as Row } from '@/server/release/results';
import { Decision } from '../kit/Decision';
import { Tick } from '../kit/Tick';

/** What stands and what would happen, in numbers. */
export function numbersSentence(numbers: Numbers): string {
  const said = [
    numbers.standing > 0 && `${numbers.standing} published`,
    `${numbers.ready} ready to publish${numbers.changed > 0 ? ` (${numbers.changed} changed since published)` : ''}`,
    numbers.stillToMark > 0 && `${numbers.stillToMark} still to be marked`,
    numbers.running > 0 && `${numbers.running} writing now`,
    numbers.notHandedIn > 0 && `${numbers.notHandedIn} not handed in`,
    numbers.excused > 0 && `${numbers.excused} excused`,
  ];
  return `${said.filter(Boolean).join(', ')}.`;
}

type Props = {
  results: Results;
  numbers: Numbers;
  /** The rows it acts on; null for everyone. */
  chosen: readonly Row[] | null;
  busy: boolean;
  onAct: (showAtOnce: boolean) => void;
  onClose: () => void;
};

const mostListed = 12;

/** Asks before results are put in front of students: who, how many, what they see, and what changes for whom. */
export function PublishDecision({ results, numbers, chosen, busy, onAct, onClose }: Props) {
  const [showAtOnce, setShowAtOnce] = useState(false);
  const { leaks } = results;
  const changed = (chosen ?? results.rows).filter((row) => row.changed && row.result?.ready);
  return (
    <Decision
      title={`Publish ${counted(numbers.ready, 'result')}?`}
      act="Publish"
      busy={busy}
      onClose={onClose}
      onAct={() => onAct(showAtOnce)}
    >
      <p>
        {counted(numbers.ready, 'student gets', 'students get')} a message
        {chosen ? ', those you picked and nobody else' : ''}. What they see from then on:
      </p>
      <ul className="list-disc pl-6">
        {results.planSaid.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
      {waitingCount(results.waiting) > 0 && (
        <div className="border-l-2 border-saffron pl-3 text-saffron">
          <p>Not decided yet, and not in these results:</p>
          <ul className="list-disc pl-6">
            {waitingSaid(results.waiting).map((said) => (
              <li key={said}>{said}</li>
            ))}
          </ul>
          {results.waitingNames.length > 0 && <p>Answers of {listed(results.waitingNames)}.</p>}
        </div>
      )}
      {results.phase === 'open' && (
        <p className="text-saffron">
          The sitting is still open: whoever has not handed in yet can hear of these results.
        </p>
      )}
      {changed.length > 0 && (
        <>
          <p>{counted(changed.length, 'student has', 'students have')} been told something else before:</p>
          <ul className="max-h-44 overflow-y-auto border border-line px-3 py-1 text-sm tabular-nums">
            {changed.slice(0, mostListed).map((row) => (
              <li key={row.userId} className="flex justify-between gap-4">
                <span>{row.name}</span>
                <span>
                  {pointsText(row.published?.earned ?? 0)} → {pointsText(row.result?.earned ?? 0)} of{' '}
                  {pointsText(row.result?.possible ?? 0)}
                  {row.published &&
                    (row.published.band ?? '') !== row.band &&
                    `, ${row.published.band ?? 'no band'} → ${row.band || 'no band'}`}
                </span>
              </li>
            ))}
            {changed.length > mostListed && <li>and {changed.length - mostListed} more, in the table below</li>}
          </ul>
        </>
      )}
      {results.leaksTaken.map((leak) => (
        <p key={leak} className="border-l-2 border-saffron pl-3 text-saffron">
          {leak}
        </p>
      ))}
      {leaks.length > 0 && (
        <div className="border-l-2 border-saffron pl-3">
          {leaks.map((leak) => (
            <p key={leak} className="text-saffron">
              {leak}
            </p>
          ))}
          <Tick on={showAtOnce} onChange={setShowAtOnce}>
            Show it at once all the same; I take that on
          </Tick>
        </div>
      )}
      {!chosen && numbers.stillToMark > 0 && (
        <p>
          {numbers.stillToMark} still {oneOrMany(numbers.stillToMark, 'waits', 'wait')} for marks and{' '}
          {oneOrMany(numbers.stillToMark, 'stays', 'stay')} unpublished.
        </p>
      )}
      {!chosen && numbers.notHandedIn + numbers.running > 0 && (
        <p>{numbers.notHandedIn + numbers.running} have not handed in.</p>
      )}
    </Decision>
  );
}
