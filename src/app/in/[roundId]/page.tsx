import { notFound, redirect } from 'next/navigation';
import { page } from '@/app/pages';
import { seeOwnRound } from '@/server/round/device';
import { pageWidths } from '@/ui/kit/pageWidths';
import { DevicePage } from '@/ui/round/DevicePage';

export const metadata = { title: 'Round' };

/** A round on one's own device. At one's own pace it is answered like every exam, until it is handed in or stopped. */
export default page<'roundId'>((context, { roundId }) => {
  const seen = seeOwnRound(context, roundId);
  if (!seen.ok) notFound();
  const { pace, handedIn, stopped, attemptId } = seen.value;
  if (pace === 'own' && !handedIn && !stopped) redirect(`/take/${attemptId}`);
  return (
    <main className={`mx-auto px-4 py-4 ${pageWidths.reading}`}>
      <DevicePage sittingId={roundId} begun={seen.value} />
    </main>
  );
});
