'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import { filesSaid } from '@/core/print/printOrder';
import { type ReportKind, reportKinds, reportNames } from '@/core/release/printedReports';
import type { PrintState } from '@/server/print/printJobs';
import type { ReportsPage as Page } from '@/server/release/sittingReport';
import type { Commands } from '../kit/commands';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { PrintProgress } from '../kit/PrintProgress';
import { Tick } from '../kit/Tick';

type Props = {
  back: string;
  file: string;
  page: Page;
  commands: Commands<'printReport' | 'reportState' | 'cancelReport', 'courseId' | 'sittingId'>;
};

const reportOf = (state: PrintState | null) => reportKinds.find((kind) => kind === state?.input.report) ?? null;

/** The reports of a sitting’s results as PDF, printed while the instructor may go on. */
export function ReportsPage({ back, file, page, commands }: Props) {
  const [report, setReport] = useState<ReportKind>(reportOf(page.state) ?? 'class');
  const [named, setNamed] = useState(true);
  const [running, setRunning] = useState(false);
  return (
    <PageFrame width="reading">
      <PageTitle title="Reports to print" back={{ href: back, name: `Results: ${page.title}` }} />
      {page.students === 0 ? (
        <Empty title="Nothing handed in yet">Reports are printed from what students have handed in.</Empty>
      ) : (
        <Sheet className="px-5 py-4">
          <fieldset disabled={running}>
            <legend className="mb-1 font-medium">Which report</legend>
            {reportKinds.map((kind) => (
              <Tick
                key={kind}
                radio
                name="report"
                on={report === kind}
                disabled={running}
                onChange={() => setReport(kind)}
              >
                {reportNames[kind].name}: <span className="text-ink-2">{reportNames[kind].holds}</span>
              </Tick>
            ))}
          </fieldset>
          {report !== 'questions' && (
            <Tick on={named} disabled={running} onChange={setNamed}>
              With names:{' '}
              <span className="text-ink-2">else each student has a number that is theirs in every report</span>
            </Tick>
          )}
          <PrintProgress
            state={page.state}
            begin={() => commands.printReport(report, named)}
            progress={commands.reportState}
            end={commands.cancelReport}
            what={report === 'students' ? 'students' : 'pieces'}
            act={() => `Print “${reportNames[report].name}”`}
            file={file}
            fileSaid={(now) => {
              const kind = reportOf(now) ?? 'class';
              return `Open “${reportNames[kind].name}”${kind === 'students' ? ` of ${counted(now.total, 'student')}` : ''}${filesSaid(now.total)}`;
            }}
            onRunning={setRunning}
          />
          <p className="mt-3 text-sm text-ink-2">
            From results as they are now, published or not. You may leave this page while it prints.
          </p>
        </Sheet>
      )}
    </PageFrame>
  );
}
