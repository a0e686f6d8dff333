import type { Result } from '@/core/base/result';
import { type Context, contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { refuse, reply } from './reply';

/** A picture of an answer sheet, for whoever may look at it: it is shown as nothing else. */
export async function keptPicture(
  request: Request,
  open: (context: Context) => Result<never> | Promise<Result<{ bytes: Uint8Array }>>,
): Promise<Response> {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const found = await open(contextFor(actor, request.headers));
  if (!found.ok) return reply(found);
  return new Response(Buffer.from(found.value.bytes), {
    headers: {
      'Content-Type': 'image/webp',
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': "default-src 'none'",
      // What a plan shows today it may not show tomorrow.
      'Cache-Control': 'private, max-age=300',
    },
  });
}
