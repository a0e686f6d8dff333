import { commandsIn, orNotFound, page } from '@/app/pages';
import { reportsPage } from '@/server/release/sittingReport';
import { ReportsPage } from '@/ui/release/PrintedReportsPage';

export const metadata = { title: 'Reports to print' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const shown = orNotFound(reportsPage(context, courseId, sittingId));
  const results = `/c/${courseId}/sittings/${sittingId}/results`;
  return (
    <ReportsPage
      back={results}
      file={`${results}/printed/pdf`}
      page={shown}
      commands={commandsIn({ courseId, sittingId }, 'printReport', 'reportState', 'cancelReport')}
    />
  );
});
