'use client';
import { useState } from 'react';
import { type Instant, momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { SittingListRow as Row } from '@/server/sitting/sittings';
import { ButtonLink } from '../kit/Button';
import { Find, holds } from '../kit/Find';
import { Link } from '../kit/Link';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { RowTable, tableRow } from '../kit/RowTable';
import { TextLink } from '../kit/TextLink';
import { Phase } from './phase';

const columns = [
  { key: 'title', name: 'Sitting' },
  { key: 'state', name: 'State' },
  { key: 'opens', name: 'Opens' },
  { key: 'closes', name: 'Closes' },
  { key: 'handed-in', name: 'Handed in', right: true },
  { key: 'writing', name: 'Writing', right: true },
  { key: 'ways', name: 'Ways on', quiet: true },
];

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
  const shown = sittings.filter((row) => holds(find, row.title));
  const at = (moment: Instant | null) => (moment === null ? '–' : momentText(moment, timeZone));
  return (
    <PageFrame>
      <PageTitle title="Sittings" note={`${counted(sittings.length, 'sitting')}; times in ${timeZone}`}>
        {sittings.length > 0 && (
          <ButtonLink href={`${base}/sittings/calendar`} download>
            Calendar file
          </ButtonLink>
        )}
        <ButtonLink href={`${base}/rounds`}>Rounds in class</ButtonLink>
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
          <Find
            label="Find sittings"
            value={find}
            onChange={setFind}
            said={find.trim() && `${shown.length} of ${sittings.length}`}
          />
          <RowTable label="Sittings, listed" columns={columns} rows={shown}>
            {(row) => (
              <tr key={row.id} className={tableRow}>
                <td className="min-w-44">
                  <Link
                    href={`${base}/${row.isRound ? 'rounds' : 'sittings'}/${row.id}`}
                    className="font-serif text-lg hover:underline"
                  >
                    {row.title}
                  </Link>
                  {row.isRound && <span className="text-ink-2"> round</span>}
                </td>
                <td>
                  <Phase phase={row.phase} />
                </td>
                <td className="min-w-28 xl:whitespace-nowrap">{at(row.opens)}</td>
                <td className="min-w-28 xl:whitespace-nowrap">{at(row.closes)}</td>
                <td className="text-right whitespace-nowrap">
                  {row.handedIn} of {row.students}
                </td>
                <td className="text-right">{row.running || ''}</td>
                <td className="text-right">
                  {mayChange && row.phase === 'open' && !row.isRound && (
                    <TextLink href={`${base}/sittings/${row.id}/room`} className="mr-4">
                      Room<span className="sr-only"> of {row.title}</span>
                    </TextLink>
                  )}
                  {row.phase !== 'draft' && row.phase !== 'coming' && (
                    <TextLink href={`${base}/sittings/${row.id}/results`}>
                      Results<span className="sr-only"> of {row.title}</span>
                    </TextLink>
                  )}
                </td>
              </tr>
            )}
          </RowTable>
        </Sheet>
      )}
    </PageFrame>
  );
}
