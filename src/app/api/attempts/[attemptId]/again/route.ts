import { takeAgain } from '@/server/attempt/tries';
import { changing, reply } from '../../../reply';

/** Takes a missed question again at the end. */
export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const slotId = (asked.body as { slotId?: unknown } | null)?.slotId;
  return reply(takeAgain(asked.context, (await params).attemptId, typeof slotId === 'string' ? slotId : ''));
}
