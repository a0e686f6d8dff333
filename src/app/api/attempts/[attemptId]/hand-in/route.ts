import { handIn } from '@/server/attempt/handIn';
import { readHanded } from '@/server/attempt/readHanded';
import { changing, reply } from '../../../reply';

export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const asked = await changing(request);
  return asked.ok ? reply(handIn(asked.context, (await params).attemptId, readHanded(asked.body))) : asked.response;
}
