import type { Metadata } from 'next';
import { reportsPage } from '@/server/release/sittingReport';
import { ReportsPage } from '@/ui/release/ReportsPage';
import { orNotFound, pageContext } from '../../../../../../request';
import { endReport, printReport, reportProgress } from './actions';

export const metadata: Metadata = { title: 'Reports to print' };

export default async function Printed({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const page = orNotFound(reportsPage(await pageContext(), courseId, sittingId));
  const results = `/c/${courseId}/sittings/${sittingId}/results`;
  return (
    <ReportsPage
      back={results}
      file={`${results}/printed/pdf`}
      page={page}
      commands={{
        print: printReport.bind(null, courseId, sittingId),
        progress: reportProgress.bind(null, courseId, sittingId),
        end: endReport.bind(null, courseId, sittingId),
      }}
    />
  );
}
