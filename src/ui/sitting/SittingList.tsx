'use client';
import Link from 'next/link';
import { useState } from 'react';
import { type Instant, momentText } from '@/core/base/time';
import { ButtonLink } from '../kit/Button';
import { inputShape } from '../kit/Field';
import { Empty, PageTitle, Sheet } from '../kit/Page';
import { Phase, type SittingPhase } from './phase';

type Row = {
  id: string;
  title: string;
  phase: SittingPhase;
  opens: Instant | null;
  closes: Instant | null;
  students: number;
  running: number;
  handedIn: number;
};

/** Every sitting of the course, the latest opening first. */
export function SittingList({
  base,
  timeZone,
  sittings,
  mayChange,
}: {
  base: string;
  timeZone: string;
  sittings: Row[];
  mayChange: boolean;
}) {
  const [find, setFind] = useState('');
  const shown = sittings.filter((row) => row.title.toLowerCase().includes(find.trim().toLowerCase()));
  const at = (moment: Instant | null) => (moment === null ? '–' : momentText(moment, timeZone));
  return (
    <div className="min-w-0">
      <PageTitle
        title="Sittings"
        note={`${sittings.length} ${sittings.length === 1 ? 'sitting' : 'sittings'}; times in ${timeZone}`}
      >
        {mayChange && (
          <ButtonLink href={`${base}/exams`} look="main">
            Give an exam
          </ButtonLink>
        )}
      </PageTitle>
      {sittings.length === 0 ? (
        <Empty title="No sittings yet">
          A sitting gives an exam to people: who takes it, when, how long, how often. Open an exam and choose “Give as a
          sitting”.
        </Empty>
      ) : (
        <Sheet label="Sittings">
          <div className="border-b border-line p-2">
            <input
              type="search"
              aria-label="Find sittings"
              placeholder="Find sittings"
              value={find}
              onChange={(event) => setFind(event.target.value)}
              className={`${inputShape} max-w-sm`}
            />
          </div>
          <div className="overflow-x-auto">
            <table className="w-full">
              <thead>
                <tr className="border-b border-line text-left text-sm text-ink-2 [&>th]:px-3 [&>th]:py-1.5 [&>th]:font-medium">
                  <th>Sitting</th>
                  <th>State</th>
                  <th>Opens</th>
                  <th>Closes</th>
                  <th className="text-right">Handed in</th>
                  <th className="text-right">Writing</th>
                  <th>
                    <span className="sr-only">Ways on</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {shown.map((row) => (
                  <tr key={row.id} className="h-10 border-b border-line last:border-b-0 hover:bg-paper [&>td]:px-3">
                    <td>
                      <Link href={`${base}/sittings/${row.id}`} className="font-serif text-lg hover:underline">
                        {row.title}
                      </Link>
                    </td>
                    <td>
                      <Phase phase={row.phase} />
                    </td>
                    <td className="whitespace-nowrap">{at(row.opens)}</td>
                    <td className="whitespace-nowrap">{at(row.closes)}</td>
                    <td className="text-right">
                      {row.handedIn} of {row.students}
                    </td>
                    <td className="text-right">{row.running || ''}</td>
                    <td className="text-right">
                      {row.phase !== 'draft' && row.phase !== 'coming' && (
                        <Link href={`${base}/sittings/${row.id}/results`} className="text-prussian underline">
                          Results
                        </Link>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </Sheet>
      )}
    </div>
  );
}
