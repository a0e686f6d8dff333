import type { Metadata } from 'next';
import { gradebook } from '@/server/gradebook/gradebook';
import { GradebookPage } from '@/ui/gradebook/GradebookPage';
import { orNotFound, pageContext } from '../../../request';
import { enter, explain, history } from './actions';

export const metadata: Metadata = { title: 'Gradebook' };

export default async function GradebookView({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  return (
    <GradebookPage
      base={`/c/${courseId}`}
      book={orNotFound(gradebook(await pageContext(), courseId))}
      commands={{
        history: history.bind(null, courseId),
        enter: enter.bind(null, courseId),
        explain: explain.bind(null, courseId),
      }}
    />
  );
}
