import { notFound } from 'next/navigation';
import { orNotFound, page } from '@/app/pages';
import { journalKey } from '@/server/house/journalKey';
import { myReview } from '@/server/release/review';
import { isMissed } from '@/server/release/reviewPaper';
import { KeepingFor } from '@/ui/keep/KeepingFor';
import { CardsPage } from '@/ui/release/CardsPage';

export const metadata = { title: 'Cards' };

export default page<'sittingId'>((context, { sittingId }, asked) => {
  const review = orNotFound(myReview(context, sittingId, Number(asked.attempt) || null));
  if (!review.cards) notFound();
  return (
    <KeepingFor userId={context.actor.userId} journalKey={journalKey(context)}>
      <CardsPage
        title={review.title}
        back={`/my/results/${sittingId}`}
        cards={review.questions.filter(isMissed)}
        passages={review.passages}
      />
    </KeepingFor>
  );
});
