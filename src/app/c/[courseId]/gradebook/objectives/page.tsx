import type { Metadata } from 'next';
import { objectiveResults } from '@/server/gradebook/objectiveResults';
import { ObjectivesPage } from '@/ui/gradebook/ObjectivesPage';
import { orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'By objective' };

export default async function Objectives({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  return (
    <ObjectivesPage base={`/c/${courseId}`} results={orNotFound(objectiveResults(await pageContext(), courseId))} />
  );
}
