import { commandsIn, orNotFound, page } from '@/app/pages';
import { gradebook } from '@/server/gradebook/gradebook';
import { SheetsPage } from '@/ui/gradebook/SheetsPage';

export const metadata = { title: 'In and out' };

export default page<'courseId'>((context, { courseId }) => {
  const { columns } = orNotFound(gradebook(context, courseId));
  return (
    <SheetsPage
      base={`/c/${courseId}`}
      courseId={courseId}
      manual={columns
        .filter((column) => column.kind === 'manual')
        .map(({ id, title, worth }) => ({ id, title, worth }))}
      {...commandsIn({ courseId }, 'undoChange')}
    />
  );
});
