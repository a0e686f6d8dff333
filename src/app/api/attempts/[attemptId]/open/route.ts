import { openForWriting } from '@/server/attempt/takeAttempt';
import { changing, reply } from '../../../reply';

export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const asked = await changing(request);
  return asked.ok ? reply(openForWriting(asked.context, (await params).attemptId)) : asked.response;
}
