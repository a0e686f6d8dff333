import { contextFor, house } from '@/server/house/context';
import { auth } from '@/server/people/auth';
import { joinByLink } from '@/server/people/joinByLink';
import { bodyOf, isOwnOrigin, refuse, reply } from '../reply';

/** Takes in whoever comes by a sitting's link and types a name, and signs them in. */
export async function POST(request: Request) {
  if (!isOwnOrigin(request)) return refuse('not-allowed', 'This request does not come from a page of Wuzzen.');
  const { secret, name } = ((await bodyOf(request)) ?? {}) as { secret?: unknown; name?: unknown };
  if (typeof secret !== 'string' || typeof name !== 'string') return refuse('bad-input', 'Type your name.');
  const { db, now } = contextFor(house);
  const joined = await joinByLink(db, secret, name, request.headers.get('x-forwarded-for') ?? '', now);
  if (!joined.ok) return reply(joined);
  const { email, password, sittingId } = joined.value;
  const signedIn = await auth().api.signInEmail({
    body: { email, password },
    headers: request.headers,
    asResponse: true,
  });
  return new Response(JSON.stringify({ sittingId }), {
    status: signedIn.status,
    headers: [
      ['Content-Type', 'application/json'],
      ['Cache-Control', 'no-store'],
      ...signedIn.headers.getSetCookie().map((cookie): [string, string] => ['Set-Cookie', cookie]),
    ],
  });
}
