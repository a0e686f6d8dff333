import { contextFor, house } from '@/server/house/context';
import { moveClock, serverNow } from '@/server/house/installation';
import { bodyOf, refuse } from '../../reply';

/** Moves the clock of a demo or test folder, for whoever holds the token the server was started with. */
export async function POST(request: Request) {
  const token = process.env.WUZZEN_CLOCK_TOKEN;
  const { offset } = ((await bodyOf(request)) ?? {}) as { offset?: unknown };
  const may = token && request.headers.get('x-clock-token') === token && Number.isSafeInteger(offset);
  if (!may || !moveClock(contextFor(house).db, Number(offset))) return refuse('not-found', 'There is nothing here.');
  return Response.json({ now: serverNow() });
}
