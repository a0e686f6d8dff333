import { checkQuestion } from '@/server/attempt/tries';
import { changing, reply } from '../../../reply';

/** Checks a question as it stands on the server, before the hand-in. */
export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const slotId = (asked.body as { slotId?: unknown } | null)?.slotId;
  return reply(checkQuestion(asked.context, (await params).attemptId, typeof slotId === 'string' ? slotId : ''));
}
