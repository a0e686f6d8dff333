import { changing, refuse, reply } from '@/app/api/reply';
import { leadRound, stopRound } from '@/server/round/lead';

/**
 * Leading a round: at an address of its own, so that a class need not wait because the server was built anew meanwhile.
 */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ courseId: string; roundId: string; act: string }> },
) {
  const { courseId, roundId, act } = await params;
  if (act !== 'lead' && act !== 'stop') return refuse('not-found', 'There is nothing at this address.');
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  return reply(
    act === 'stop'
      ? stopRound(asked.context, courseId, roundId)
      : leadRound(asked.context, courseId, roundId, asked.body),
  );
}
