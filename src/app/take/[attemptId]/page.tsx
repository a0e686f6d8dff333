import type { Metadata } from 'next';
import { notFound, redirect } from 'next/navigation';
import { takingPage } from '@/server/attempt/takeAttempt';
import { TakingPage } from '@/ui/attempt/TakingPage';
import { pageContext } from '../../request';

export const metadata: Metadata = { title: 'Exam' };

export default async function Take({ params }: { params: Promise<{ attemptId: string }> }) {
  const { attemptId } = await params;
  const page = takingPage(await pageContext(), attemptId);
  if (!page.ok && page.problems[0]?.code === 'too-late') redirect(`/my/receipts/${attemptId}`);
  if (!page.ok) notFound();
  const { title, instructions, slots } = page.value;
  return <TakingPage attemptId={attemptId} title={title} instructions={instructions} slots={slots} />;
}
