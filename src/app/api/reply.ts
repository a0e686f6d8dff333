import type { Problem, Result } from '@/core/base/result';
import { readBody } from '@/server/house/bodies';
import { type Context, contextFor } from '@/server/house/context';
import { logFailure } from '@/server/house/log';
import { actorOf } from '@/server/people/auth';

const statuses: Record<Problem['code'], number> = {
  'bad-input': 400,
  'other-kind': 400,
  'not-allowed': 403,
  'not-found': 404,
  conflict: 409,
  superseded: 409,
  'too-late': 410,
  'too-early': 403,
  'signed-out': 401,
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

/** The reply of a use-case that takes a file. What fails unforeseen is logged, and said in words that help. */
async function replyTo(
  context: Context,
  ask: () => Result<unknown> | Promise<Result<unknown>>,
  whenItFails: string,
): Promise<Response> {
  try {
    return reply(await ask());
  } catch (why) {
    logFailure(why, context.requestId, whenItFails);
    return refuse('busy', whenItFails);
  }
}

/** Whether a changing request comes from one of our own pages. */
export function isOwnOrigin(headers: Pick<Headers, 'get'>): boolean {
  const origin = headers.get('origin');
  const site = headers.get('sec-fetch-site');
  if (site && site !== 'same-origin') return false;
  if (!origin) return site === 'same-origin';
  try {
    return new URL(origin).host === headers.get('host');
  } catch {
    return false;
  }
}

/** The largest body that a route reads as JSON, in bytes. */
const largestBody = 1_000_000;

/** What was sent as JSON; null for nothing, undefined for what cannot be read. */
export async function bodyOf(request: Request, most = largestBody): Promise<unknown> {
  const read = await readBody(request.body, most);
  if (read === null) return undefined;
  try {
    return read.length === 0 ? null : JSON.parse(new TextDecoder().decode(read));
  } catch {
    return undefined;
  }
}

/** Whether a changing request is ours and comes from someone signed in. */
async function asking(request: Request): Promise<{ ok: true; context: Context } | { ok: false; response: Response }> {
  if (!isOwnOrigin(request.headers))
    return { ok: false, response: refuse('not-allowed', 'This request does not come from a page of Wuzzen.') };
  const actor = await actorOf(request.headers);
  if (actor) return { ok: true, context: contextFor(actor, request.headers) };
  const message = 'You are signed out. Sign in again; your answers are kept in this browser.';
  return { ok: false, response: Response.json({ problems: [{ code: 'not-allowed', message }] }, { status: 401 }) };
}

/** What a changing route needs: our own origin, a signed-in person, readable JSON. */
export async function changing(
  request: Request,
): Promise<{ ok: true; context: Context; body: unknown } | { ok: false; response: Response }> {
  const asked = await asking(request);
  if (!asked.ok) return asked;
  const body = await bodyOf(request);
  if (body === undefined) return { ok: false, response: refuse('bad-input', 'The request could not be read.') };
  return { ...asked, body };
}

/**
 * A route that takes a file: our own origin, a signed-in person, who is admitted to what is done with it before a byte is
 * read, and no more than so many bytes.
 */
export async function receiving(request: Request, { most, admits, does, whenItFails }: Receiving): Promise<Response> {
  const asked = await asking(request);
  if (!asked.ok) return asked.response;
  const { context } = asked;
  const admitted = admits(context);
  if (!admitted.ok) return reply(admitted);
  const bytes = Number(request.headers.get('content-length') ?? 0) > most ? null : await readBody(request.body, most);
  if (bytes === null) return refuse('bad-input', `The file is larger than ${Math.floor(most / 1_000_000)} MB.`);
  return replyTo(context, () => does(context, bytes), whenItFails);
}

type Receiving = {
  /** The most bytes of the file. */
  most: number;
  admits(context: Context): Result<unknown>;
  does(context: Context, bytes: Uint8Array): Result<unknown> | Promise<Result<unknown>>;
  whenItFails: string;
};
