import type { Metadata } from 'next';
import { reportsPage } from '@/server/release/sittingReport';
import { ReportsPage } from '@/ui/release/PrintedReportsPage';
import { commandsIn } from '../../../../../../commands';
import { orNotFound, pageContext } from '../../../../../../request';

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
      commands={commandsIn({ courseId, sittingId }, 'printReport', 'reportState', 'cancelReport')}
    />
  );
}
