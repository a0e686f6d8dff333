import { commandsIn, orNotFound, page } from '@/app/pages';
import { myReview } from '@/server/release/review';
import { ReviewPage } from '@/ui/release/ReviewPage';

export const metadata = { title: 'My result' };

export default page<'sittingId'>((context, { sittingId }, asked) => {
  const number = Number(asked.attempt) || null;
  const review = orNotFound(myReview(context, sittingId, number));
  const here = `/my/results/${sittingId}`;
  return (
    <ReviewPage
      key={`${sittingId}/${review.attempt}`}
      review={review}
      here={here}
      commands={commandsIn({ sittingId }, 'replyToFeedback', 'openOnce', 'reportQuestion', 'noteSeen')}
      cardsHref={`${here}/cards${review.attempt === null ? '' : `?attempt=${review.attempt}`}`}
    />
  );
});
