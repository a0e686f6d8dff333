import { commandsIn, orNotFound, page } from '@/app/pages';
import { journalKey } from '@/server/house/journalKey';
import { myReview } from '@/server/release/review';
import { KeepingFor } from '@/ui/keep/KeepingFor';
import { ReviewPage } from '@/ui/release/ReviewPage';

export const metadata = { title: 'My result' };

export default page<'sittingId'>((context, { sittingId }, asked) => {
  const number = Number(asked.attempt) || null;
  const review = orNotFound(myReview(context, sittingId, number));
  const here = `/my/results/${sittingId}`;
  return (
    <KeepingFor userId={context.actor.userId} journalKey={journalKey(context)}>
      <ReviewPage
        key={`${sittingId}/${review.attempt}`}
        review={review}
        here={here}
        commands={commandsIn({ sittingId }, 'replyToFeedback', 'openOnce', 'reportQuestion', 'noteSeen')}
        cardsHref={`${here}/cards${review.attempt === null ? '' : `?attempt=${review.attempt}`}`}
      />
    </KeepingFor>
  );
});
