'use client';
import { useRouter } from 'next/navigation';
import type { MarkingOrder, QuestionToMark } from '@/server/marking/answersToMark';
import { PickPiece } from '../kit/PickPiece';
import { TextLink } from '../kit/TextLink';
import { amounts, type MarkingWalk } from './useMarkingWalk';

const orderSaid: Record<MarkingOrder, { says: string; means: string }> = {
  mixed: { says: 'mixed', means: 'mixed: an order of your own, the same whenever you come back' },
  'handed-in': { says: 'as they were handed in', means: 'as they were handed in' },
  similar: { says: 'alike ones one after another', means: 'alike ones one after another' },
};

type Props = {
  walk: MarkingWalk;
  here: string;
  by: 'question' | 'paper';
  order: MarkingOrder;
  second: boolean;
  questions: readonly QuestionToMark[];
};

/** In which order answers come and how many at a time, and the other ways to mark. */
export function MarkingWays({ walk, here, by, order, second, questions }: Props) {
  const router = useRouter();
  return (
    <div className="-mt-2 mb-3 flex flex-wrap items-center gap-x-5 gap-y-1 text-sm">
      <span>
        {by === 'question' ? (
          <>
            Answers come{' '}
            <PickPiece
              label="Order"
              value={order}
              options={(second ? (['mixed'] as const) : (['mixed', 'handed-in', 'similar'] as const)).map((value) => ({
                value,
                ...orderSaid[value],
              }))}
              onPick={(value) => router.push(`?order=${value}`)}
            />
            ,{' '}
            <PickPiece
              label="How many at a time"
              value={walk.atOnce}
              options={amounts.map((value) => ({
                value,
                says: value === '1' ? 'one at a time' : `${value} at a time`,
              }))}
              onPick={walk.setAtOnce}
            />
            .
          </>
        ) : (
          'All answers of one paper together, the papers in an order of your own.'
        )}
      </span>
      <nav aria-label="Ways to mark" className="flex flex-wrap gap-x-4 empty:hidden">
        {by === 'question' && !second && (
          <TextLink href={`${here}/${walk.current.questionId}/together`}>Alike answers together</TextLink>
        )}
        {second ? null : by === 'question' ? (
          <TextLink href={`${here}/papers`}>Paper by paper</TextLink>
        ) : (
          questions.map((one) => (
            <TextLink key={one.questionId} href={`${here}/${one.questionId}`}>
              {one.name}
            </TextLink>
          ))
        )}
      </nav>
    </div>
  );
}
