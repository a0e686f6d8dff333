import { pulse } from '@/server/attempt/takeAttempt';
import { changing, reply } from '../../../reply';

export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const epoch = Number((asked.body as { epoch?: unknown } | null)?.epoch ?? 0);
  return reply(pulse(asked.context, (await params).attemptId, epoch));
}
