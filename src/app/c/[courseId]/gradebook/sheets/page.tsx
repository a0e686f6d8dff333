import type { Metadata } from 'next';
import { gradebook } from '@/server/gradebook/gradebook';
import { SheetsPage } from '@/ui/gradebook/SheetsPage';
import { commandsIn } from '../../../../commands';
import { orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'In and out' };

export default async function Sheets({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const { columns } = orNotFound(gradebook(await pageContext(), courseId));
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
}
