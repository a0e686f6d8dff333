import type { Metadata } from 'next';
import { gradebook } from '@/server/gradebook/gradebook';
import { GradebookPage } from '@/ui/gradebook/GradebookPage';
import { orNotFound, pageContext } from '../../../request';

export const metadata: Metadata = { title: 'Gradebook' };

export default async function Gradebook({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const { columns, rows } = orNotFound(gradebook(await pageContext(), courseId));
  return <GradebookPage base={`/c/${courseId}`} columns={columns} rows={rows} />;
}
