import { signIn } from '@/server/people/auth';
import { bodyOf, isOwnOrigin, refuse, reply } from '../reply';

export async function POST(request: Request) {
  if (!isOwnOrigin(request.headers)) return refuse('not-allowed', 'This request does not come from a page of Wuzzen.');
  const { name, password, stays } = ((await bodyOf(request, 2_000)) ?? {}) as Record<string, unknown>;
  if (typeof name !== 'string' || typeof password !== 'string' || name.length > 200 || password.length > 200)
    return refuse('bad-input', 'Give what you sign in with, and your password.');
  const address = request.headers.get('x-forwarded-for') ?? '';
  const answer = await signIn(name, password, address, request.headers, stays === true);
  return answer.ok ? answer.value : reply(answer);
}
