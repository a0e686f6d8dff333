import { redirect } from 'next/navigation';
import { orNotFound, page } from '@/app/pages';
import { listBanks } from '@/server/bank/banks';
import { Empty } from '@/ui/kit/Page';

export default page<'courseId'>((context, { courseId }) => {
  const [first] = orNotFound(listBanks(context, courseId));
  if (first) redirect(`/c/${courseId}/banks/${first.id}`);
  return <Empty title="This course uses no bank yet">A bank keeps your questions from term to term.</Empty>;
});
