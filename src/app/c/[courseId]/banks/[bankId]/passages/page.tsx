import type { Metadata } from 'next';
import { listPassages, questionsOfPassage } from '@/server/bank/passages';
import { PassagesPage } from '@/ui/bank/PassagesPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Passages' };

export default async function Passages({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; bankId: string }>;
  searchParams: Promise<{ passage?: string }>;
}) {
  const { courseId, bankId } = await params;
  const { passage } = await searchParams;
  const context = await pageContext();
  const passages = orNotFound(listPassages(context, courseId, bankId));
  const open = passages.find((one) => one.id === passage) ?? null;
  return (
    <PassagesPage
      base={`/c/${courseId}/banks/${bankId}`}
      passages={passages}
      open={open}
      isNew={passage === 'new'}
      questions={open ? orNotFound(questionsOfPassage(context, courseId, bankId, open.id)) : []}
      {...commandsIn({ courseId, bankId }, 'savePassage')}
    />
  );
}
