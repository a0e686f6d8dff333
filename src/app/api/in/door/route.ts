import { lookAtDoor } from '@/server/round/comeIn';
import { bodyOf, isOwnOrigin, refuse, reply } from '../../reply';
import { atDoor } from '../atDoor';

/** What a door code leads to. */
export async function POST(request: Request) {
  if (!isOwnOrigin(request.headers)) return refuse('not-allowed', 'This request does not come from a page of Wuzzen.');
  const { code } = ((await bodyOf(request, 2_000)) ?? {}) as { code?: unknown };
  return reply(lookAtDoor(await atDoor(request.headers), typeof code === 'string' ? code : ''));
}
