import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { myReview } from '@/server/release/review';
import { isMissed } from '@/server/release/reviewPaper';
import { CardsPage } from '@/ui/release/CardsPage';
import { orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'Cards' };

type Props = { params: Promise<{ sittingId: string }>; searchParams: Promise<{ attempt?: string }> };

export default async function Cards({ params, searchParams }: Props) {
  const { sittingId } = await params;
  const review = orNotFound(myReview(await pageContext(), sittingId, Number((await searchParams).attempt) || null));
  if (!review.cards) notFound();
  return (
    <CardsPage
      title={review.title}
      back={`/my/results/${sittingId}`}
      cards={review.questions.filter(isMissed)}
      passages={review.passages}
    />
  );
}
