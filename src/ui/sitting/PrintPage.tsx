'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import { documentsAFile, filesSaid } from '@/core/print/printOrder';
import type { PrintState as State } from '@/server/print/printJobs';
import type { Commands } from '../kit/commands';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { PrintProgress } from '../kit/PrintProgress';
import { Tick } from '../kit/Tick';

type Props = {
  sitting: { href: string; title: string; students: number; anonymous: boolean };
  /** Where the printed papers lie once they are done. */
  file: string;
  state: State | null;
} & Commands<'printSitting' | 'printState' | 'cancelPrint', 'courseId' | 'sittingId'>;

/** Every student’s own paper as PDF: for the day on which the network fails. */
export function PrintPage({ sitting, file, state, printSitting, printState, cancelPrint }: Props) {
  const [withKey, setWithKey] = useState(state?.input.withKey ?? false);
  const [running, setRunning] = useState(false);
  return (
    <PageFrame width="reading">
      <PageTitle title="Papers to print" back={{ href: sitting.href, name: sitting.title }} />
      <Sheet className="px-5 py-4">
        <p className="max-w-prose">
          {sitting.anonymous
            ? 'One paper that is the same for everyone, as PDF, to be copied as often as you need it: from papers of their own it could be told whose they are.'
            : 'Every student’s own paper as PDF, by name: the one of the running or last attempt, or the one the first attempt will get.'}{' '}
          Printing fixes the questions of this sitting, as its first start would.
        </p>
        <Tick on={withKey} disabled={running} className="mt-3" onChange={setWithKey}>
          With right answers and solutions
        </Tick>
        <PrintProgress
          state={state}
          begin={() => printSitting(withKey)}
          progress={printState}
          end={cancelPrint}
          what="papers"
          act={(now) => `Print ${counted(sitting.anonymous ? 1 : sitting.students, 'paper')}${now ? ' anew' : ''}`}
          file={file}
          fileSaid={(now) =>
            `${now.total > documentsAFile ? 'Keep' : 'Open'} the ${now.total === 1 ? 'paper' : `${now.total} papers`}${now.input.withKey ? ' with key' : ''}${filesSaid(now.total)}`
          }
          onRunning={setRunning}
        />
      </Sheet>
    </PageFrame>
  );
}
