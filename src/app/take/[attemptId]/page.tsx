import { notFound, redirect } from 'next/navigation';
import { page } from '@/app/pages';
import { mayGoOn } from '@/server/attempt/takeAttempt';
import { TakeAttempt } from '@/ui/attempt/TakeAttempt';

export const metadata = { title: 'Exam' };

/** The shell of the taking page. The paper comes with the right to write, in one answer, when the page opens it. */
export default page<'attemptId'>((context, { attemptId }) => {
  const may = mayGoOn(context, attemptId);
  if (!may.ok && may.problems[0]?.code === 'too-late') redirect(`/my/receipts/${attemptId}`);
  if (!may.ok) notFound();
  if (may.value.led) redirect(`/in/${may.value.sittingId}`);
  return <TakeAttempt attemptId={attemptId} title={may.value.title} />;
});
