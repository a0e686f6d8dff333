import type { Metadata } from 'next';
import { rehearsalBeginning } from '@/server/exam/rehearsalMaterial';
import { RehearsalPage } from '@/ui/exam/rehearsal/RehearsalPage';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Rehearsal' };

export default async function Rehearsal({ params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const { courseId, examId } = await params;
  const beginning = orNotFound(rehearsalBeginning(await pageContext(), courseId, examId));
  return <RehearsalPage base={`/c/${courseId}/exams/${examId}`} {...beginning} />;
}
