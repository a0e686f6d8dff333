import { commandsIn, orNotFound, page } from '@/app/pages';
import { workbench } from '@/server/gradebook/workbench';
import { BandsPage } from '@/ui/gradebook/BandsPage';

export const metadata = { title: 'Bands' };

export default page<'courseId'>((context, { courseId }, asked) => {
  const sittingId = asked.sitting ?? null;
  const bench = orNotFound(workbench(context, courseId, sittingId));
  return (
    <BandsPage
      key={sittingId ?? ''}
      base={`/c/${courseId}`}
      bench={bench}
      commands={commandsIn({ courseId }, 'saveNumbers', 'saveSittingBands')}
    />
  );
});
