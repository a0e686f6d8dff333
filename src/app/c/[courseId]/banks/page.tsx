import { redirect } from 'next/navigation';
import { listBanks } from '@/server/bank/banks';
import { Empty } from '@/ui/kit/Page';
import { orNotFound, pageContext } from '../../../request';

export default async function BanksPage({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const [first] = orNotFound(listBanks(await pageContext(), courseId));
  if (first) redirect(`/c/${courseId}/banks/${first.id}`);
  return <Empty title="This course uses no bank yet">A bank keeps your questions from term to term.</Empty>;
}
