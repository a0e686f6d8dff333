import type { Metadata } from 'next';
import { gradebook } from '@/server/gradebook/gradebook';
import { GradebookPage } from '@/ui/gradebook/GradebookPage';
import { commandsIn } from '../../../commands';
import { orNotFound, pageContext } from '../../../request';

export const metadata: Metadata = { title: 'Gradebook' };

export default async function GradebookView({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  return (
    <GradebookPage
      base={`/c/${courseId}`}
      book={orNotFound(gradebook(await pageContext(), courseId))}
      commands={commandsIn({ courseId }, 'cellHistory', 'enterCell', 'explained')}
    />
  );
}
