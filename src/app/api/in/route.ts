import { letIn } from '@/server/people/auth';
import { type ComingIn, comeIn } from '@/server/round/comeIn';
import { bodyOf, isOwnOrigin, refuse, reply } from '../reply';
import { atDoor } from './atDoor';

const word = (value: unknown): string => (typeof value === 'string' ? value : '');
const wordOf = (name: string, value: unknown) => (typeof value === 'string' ? { [name]: value } : {});

/** Lets somebody into a round, and signs their device in where they are not signed in as themselves. */
export async function POST(request: Request) {
  if (!isOwnOrigin(request.headers)) return refuse('not-allowed', 'This request does not come from a page of Wuzzen.');
  const body = ((await bodyOf(request, 8_000)) ?? {}) as Record<string, unknown>;
  const input: ComingIn = {
    code: word(body.code),
    sittingId: word(body.sittingId),
    ...wordOf('name', body.name),
    ...wordOf('number', body.number),
    ...wordOf('wayBack', body.wayBack),
    ...wordOf('madeUp', body.madeUp),
  };
  const came = comeIn(await atDoor(request.headers), input);
  if (!came.ok) return reply(came);
  const { letIn: device, ...round } = came.value;
  if (device === null) return reply({ ok: true, value: round });
  const signedIn = await letIn(device, 'without-password', request.headers);
  return new Response(JSON.stringify(round), {
    status: signedIn.status,
    headers: [
      ['Content-Type', 'application/json'],
      ['Cache-Control', 'no-store'],
      ...signedIn.headers.getSetCookie().map((cookie): [string, string] => ['Set-Cookie', cookie]),
    ],
  });
}
