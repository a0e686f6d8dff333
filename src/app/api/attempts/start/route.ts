import { startAttempt } from '@/server/attempt/startAttempt';
import { changing, reply } from '../../reply';

export async function POST(request: Request) {
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const sittingId = (asked.body as { sittingId?: unknown } | null)?.sittingId;
  return reply(startAttempt(asked.context, typeof sittingId === 'string' ? sittingId : ''));
}
