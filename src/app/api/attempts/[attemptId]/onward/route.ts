import { goOnward } from '@/server/attempt/onward';
import { changing, reply } from '../../../reply';

/** Goes on to a page, where the way is onward only. */
export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const page = Number((asked.body as { page?: unknown } | null)?.page ?? Number.NaN);
  return reply(goOnward(asked.context, (await params).attemptId, page));
}
