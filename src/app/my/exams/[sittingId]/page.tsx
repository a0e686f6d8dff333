import { redirect } from 'next/navigation';
import { orNotFound, page } from '@/app/pages';
import { beforeStart } from '@/server/desk/myExams';
import { BeforeStart } from '@/ui/attempt/BeforeStart';

export const metadata = { title: 'Before you begin' };

export default page<'sittingId'>((context, { sittingId }) => {
  const exam = orNotFound(beforeStart(context, sittingId));
  if (exam.runningAttemptId) redirect(`/take/${exam.runningAttemptId}`);
  return <BeforeStart exam={exam} />;
});
