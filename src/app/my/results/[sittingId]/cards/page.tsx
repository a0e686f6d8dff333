import { notFound } from 'next/navigation';
import { orNotFound, page } from '@/app/pages';
import { myReview } from '@/server/release/review';
import { isMissed } from '@/server/release/reviewPaper';
import { CardsPage } from '@/ui/release/CardsPage';

export const metadata = { title: 'Cards' };

export default page<'sittingId'>((context, { sittingId }, asked) => {
  const review = orNotFound(myReview(context, sittingId, Number(asked.attempt) || null));
  if (!review.cards) notFound();
  return (
    <CardsPage
      title={review.title}
      back={`/my/results/${sittingId}`}
      cards={review.questions.filter(isMissed)}
      passages={review.passages}
    />
  );
});
