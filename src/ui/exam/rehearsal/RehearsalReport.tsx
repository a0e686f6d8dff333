'use client';
import { useEffect, useState } from 'react';
import type { NamedUse, Rehearsal, RehearsedPapers } from '@/core/exam/rehearsal';
import { FileLink } from '../../kit/FileLink';
import { Sheet } from '../../kit/Page';
import { OverlapChart, ScoreChart, UseChart } from './charts';

type Props = {
  base: string;
  rehearsal: Rehearsal;
  uses: NamedUse[];
  seconds: number;
  /** The number of each line on the plan. */
  numbers: Record<string, string>;
};

const decimals = (value: number, places: number) => value.toFixed(places);
const percent = (share: number) => `${decimals(100 * share, 1)} %`;

/** What a rehearsal found: figures before and after equal hardness, three shapes, and what ran short. */
export function RehearsalReport({ base, rehearsal, uses, seconds, numbers }: Props) {
  const { plain, equal, questions, met } = rehearsal;
  const drawn = useOneByOne(3);
  const papers = rehearsal.students * rehearsal.attempts;
  const rows: { says: string; of: (side: RehearsedPapers) => string; note?: string }[] = [
    {
      says: 'Two papers share, in the mean',
      of: ({ overlap }) => `${decimals(overlap.mean, 2)} questions`,
      note:
        rehearsal.expectedOverlap === null
          ? 'counted; lines that share questions leave no exact expectation'
          : `plain draws are expected to share ${decimals(rehearsal.expectedOverlap, 2)}, the sum of n²/M`,
    },
    {
      says: 'Neighbours on the roster share',
      of: ({ overlap }) => `${decimals(overlap.neighbours, 2)} questions`,
    },
    {
      says: 'The two papers most alike share',
      of: ({ overlap }) =>
        overlap.worst
          ? `${overlap.worst.shared} of ${questions} (students ${overlap.worst.students.map((at) => at + 1).join(' and ')})`
          : '—',
    },
    {
      says: 'Expected scores lie between',
      of: ({ scores }) => `${percent(scores.lowest)} and ${percent(scores.highest)}`,
      note: `standard deviation ${decimals(100 * plain.scores.deviation, 2)} plain, ${decimals(100 * equal.scores.deviation, 2)} equally hard, of 100`,
    },
    {
      says: `Papers within ${rehearsal.within} of 100 of the mean`,
      of: (side) => `${side === plain ? met.plain : met.equal} of ${met.of}`,
    },
    {
      says: 'A drawn question stands on',
      of: (side) => {
        const counts = uses.map((use) => (side === plain ? use.plain : use.equal)).sort((a, b) => a - b);
        const unused = counts.filter((count) => count === 0).length;
        return `${counts[0] ?? 0} to ${counts.at(-1) ?? 0} papers${unused ? `; ${unused} on none` : ''}`;
      },
      note: `${uses.length} questions can be drawn${rehearsal.fixed ? `; ${rehearsal.fixed} more on every paper` : ''}`,
    },
  ];
  return (
    <div className="mt-2 space-y-5" data-rehearsal={drawn === 3 ? 'drawn' : 'done'}>
      <p className="text-ink-2">
        2 × {papers} papers of {questions} questions in {decimals(seconds, 1)} s.
      </p>
      <Sheet label="Figures">
        <div className="overflow-x-auto">
          <table className="w-full">
            <thead>
              <tr className="border-b border-line text-left text-sm text-ink-2">
                <th className="px-4 py-1.5 font-medium">
                  <span className="sr-only">Figure</span>
                </th>
                <th className="px-4 py-1.5 font-medium">Plain draws</th>
                <th className="px-4 py-1.5 font-medium">Equally hard</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.says} className="border-b border-line align-top last:border-b-0">
                  <th scope="row" className="px-4 py-1.5 text-left font-normal">
                    {row.says}
                    {row.note && <span className="block text-sm text-ink-2">{row.note}</span>}
                  </th>
                  <td className="px-4 py-1.5 tabular-nums">{row.of(plain)}</td>
                  <td className="px-4 py-1.5 tabular-nums">{row.of(equal)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </Sheet>
      <ShortPools base={base} plain={plain} attempts={rehearsal.attempts} numbers={numbers} />
      <div className="grid grid-cols-1 gap-5 lg:grid-cols-2">
        <Sheet label="Expected scores" className="min-h-80 px-4 py-3">
          <h2 className="text-lg">How hard the papers are</h2>
          {drawn > 0 && <ScoreChart plain={plain} equal={equal} />}
        </Sheet>
        <Sheet label="Overlap" className="px-4 py-3">
          <h2 className="text-lg">What two papers have in common</h2>
          {drawn > 1 && <OverlapChart plain={plain} equal={equal} expected={rehearsal.expectedOverlap} />}
        </Sheet>
      </div>
      <Sheet label="Use of questions" className="px-4 py-3">
        <h2 className="text-lg">How often each question is used</h2>
        <div className="min-h-56">{drawn > 2 && <UseChart uses={uses} />}</div>
        <div className="mt-3 grid gap-x-8 gap-y-3 sm:grid-cols-2">
          <UseList title="Most used" uses={uses.slice(0, 5)} />
          <UseList title="Least used" uses={uses.slice(-5).reverse()} />
        </div>
      </Sheet>
    </div>
  );
}

function UseList({ title, uses }: { title: string; uses: NamedUse[] }) {
  return (
    <div className="min-w-0">
      <h3 className="font-sans text-sm font-medium">{title}</h3>
      <ol>
        {uses.map((use) => (
          <li key={use.questionId} className="flex justify-between gap-3 border-b border-line py-0.5">
            <span className="min-w-0 truncate font-serif">{use.name}</span>
            <span className="shrink-0 text-sm text-ink-2 tabular-nums">
              {use.plain} plain, {use.equal} equally hard
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}

/** Counts up to a number, one a frame: charts are drawn one after the other, so that none keeps the page waiting long. */
function useOneByOne(most: number): number {
  const [count, setCount] = useState(0);
  useEffect(() => {
    if (count >= most) return;
    const frame = requestAnimationFrame(() => setCount(count + 1));
    return () => cancelAnimationFrame(frame);
  }, [count, most]);
  return count;
}

/** Where students meet questions again because a pool has no others left. */
function ShortPools({
  base,
  plain,
  attempts,
  numbers,
}: {
  base: string;
  plain: RehearsedPapers;
  attempts: number;
  numbers: Record<string, string>;
}) {
  if (attempts < 2) return null;
  if (plain.short.length === 0)
    return (
      <p className="text-pine">
        In {attempts} attempts nobody meets a drawn question twice: the pools suffice for so many.
      </p>
    );
  return (
    <Sheet label="Pools that run short" className="px-4 py-3">
      <h2 className="text-lg">Pools that run short</h2>
      <ul className="mt-1">
        {plain.short.map((line) => (
          <li key={line.lineId}>
            <FileLink href={`${base}#line-${line.lineId}`}>Line {numbers[line.lineId] ?? '?'}</FileLink> repeats
            questions from attempt {line.fromAttempt} on: {decimals(line.perStudent, 1)} for each student.
          </li>
        ))}
      </ul>
      <p className="mt-1 text-ink-2">
        {plain.again
          .filter((one) => one.students > 0)
          .map(
            (one) =>
              `Attempt ${one.attempt}: ${decimals(one.mean, 1)} known questions in the mean, ${one.most} at most.`,
          )
          .join(' ')}
      </p>
    </Sheet>
  );
}
