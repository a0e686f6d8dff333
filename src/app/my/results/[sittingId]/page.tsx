import type { Metadata } from 'next';
import { myReview } from '@/server/release/review';
import { ReviewPage } from '@/ui/release/ReviewPage';
import { commandsIn } from '../../../commands';
import { orNotFound, pageContext } from '../../../request';

export const metadata: Metadata = { title: 'My result' };

type Props = { params: Promise<{ sittingId: string }>; searchParams: Promise<{ attempt?: string }> };

export default async function MyResult({ params, searchParams }: Props) {
  const { sittingId } = await params;
  const number = Number((await searchParams).attempt) || null;
  const review = orNotFound(myReview(await pageContext(), sittingId, number));
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
}
