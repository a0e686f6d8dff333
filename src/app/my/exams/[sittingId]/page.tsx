import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { beforeStart } from '@/server/desk/myExams';
import { BeforeStart } from '@/ui/attempt/BeforeStart';
import { orNotFound, pageContext } from '../../../request';

export const metadata: Metadata = { title: 'Before you begin' };

export default async function BeforeStartPage({ params }: { params: Promise<{ sittingId: string }> }) {
  const exam = orNotFound(beforeStart(await pageContext(), (await params).sittingId));
  if (exam.runningAttemptId) redirect(`/take/${exam.runningAttemptId}`);
  return <BeforeStart exam={exam} />;
}
