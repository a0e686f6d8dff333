import { openQuestion } from '@/server/attempt/takeAttempt';
import { changing, reply } from '../../../reply';

/** Opens a question that has a time of its own. */
export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const slotId = (asked.body as { slotId?: unknown } | null)?.slotId;
  return reply(openQuestion(asked.context, (await params).attemptId, typeof slotId === 'string' ? slotId : ''));
}
