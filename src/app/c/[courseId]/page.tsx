import type { Metadata } from 'next';
import { desk } from '@/server/desk/desk';
import { Desk } from '@/ui/desk/Desk';
import { orNotFound, pageContext } from '../../request';

export const metadata: Metadata = { title: 'Desk' };

export default async function DeskPage({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  return <Desk base={`/c/${courseId}`} desk={orNotFound(desk(await pageContext(), courseId))} />;
}
