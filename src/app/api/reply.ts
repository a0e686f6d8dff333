import type { Problem, Result } from '@/core/base/result';
import { type Context, contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';

const statuses: Record<Problem['code'], number> = {
  'bad-input': 400,
  'not-allowed': 403,
  'not-found': 404,
  conflict: 409,
  superseded: 409,
  'too-late': 410,
  'too-early': 403,
  busy: 429,
};

/** A result as JSON with the status that belongs to it. */
export function reply<T>(result: Result<T>): Response {
  if (result.ok) return Response.json(result.value, { headers: { 'Cache-Control': 'no-store' } });
  return Response.json(
    { problems: result.problems },
    { status: statuses[result.problems[0]?.code ?? 'bad-input'], headers: { 'Cache-Control': 'no-store' } },
  );
}

export const refuse = (code: Problem['code'], message: string) => reply({ ok: false, problems: [{ code, message }] });

/** Whether a changing request comes from one of our own pages. */
export function isOwnOrigin(request: Request): boolean {
  const origin = request.headers.get('origin');
  const site = request.headers.get('sec-fetch-site');
  if (site && site !== 'same-origin') return false;
  if (!origin) return site === 'same-origin';
  try {
    return new URL(origin).host === request.headers.get('host');
  } catch {
    return false;
  }
}

/** The largest body a route takes, in characters. */
const largestBody = 1_000_000;

export async function bodyOf(request: Request): Promise<unknown> {
  if (Number(request.headers.get('content-length') ?? 0) > largestBody) return undefined;
  const text = await request.text();
  if (text.length > largestBody) return undefined;
  try {
    return text === '' ? null : JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** What a changing route needs: our own origin, a signed-in person, readable JSON. */
export async function changing(
  request: Request,
): Promise<{ ok: true; context: Context; body: unknown } | { ok: false; response: Response }> {
  if (!isOwnOrigin(request))
    return { ok: false, response: refuse('not-allowed', 'This request does not come from a page of Wuzzen.') };
  const actor = await actorOf(request.headers);
  if (!actor)
    return {
      ok: false,
      response: Response.json(
        {
          problems: [
            {
              code: 'not-allowed',
              message: 'You are signed out. Sign in again; your answers are kept in this browser.',
            },
          ],
        },
        { status: 401 },
      ),
    };
  const body = await bodyOf(request);
  if (body === undefined) return { ok: false, response: refuse('bad-input', 'The request could not be read.') };
  return { ok: true, context: contextFor(actor), body };
}
