import { contextFor, house } from '@/server/house/context';
import { letIn } from '@/server/people/auth';
import { joinByLink } from '@/server/people/joinByLink';
import { bodyOf, isOwnOrigin, refuse, reply } from '../reply';

/** Takes in whoever comes by a sitting's link and types a name, and signs them in. */
export async function POST(request: Request) {
  if (!isOwnOrigin(request.headers)) return refuse('not-allowed', 'This request does not come from a page of Wuzzen.');
  const { secret, name } = ((await bodyOf(request)) ?? {}) as { secret?: unknown; name?: unknown };
  if (typeof secret !== 'string' || typeof name !== 'string') return refuse('bad-input', 'Type your name.');
  const { db, now } = contextFor(house);
  const joined = joinByLink(db, secret, name, request.headers.get('x-forwarded-for') ?? '', now);
  if (!joined.ok) return reply(joined);
  const { userId, sittingId } = joined.value;
  const signedIn = await letIn(userId, 'without-password', request.headers);
  return new Response(JSON.stringify({ sittingId }), {
    status: signedIn.status,
    headers: [
      ['Content-Type', 'application/json'],
      ['Cache-Control', 'no-store'],
      ...signedIn.headers.getSetCookie().map((cookie): [string, string] => ['Set-Cookie', cookie]),
    ],
  });
}
