import { signIn } from '@/server/people/auth';
import { bodyOf, isOwnOrigin, refuse, reply } from '../reply';

export async function POST(request: Request) {
  if (!isOwnOrigin(request.headers)) return refuse('not-allowed', 'This request does not come from a page of Wuzzen.');
  const { email, password, stays } = ((await bodyOf(request, 2_000)) ?? {}) as Record<string, unknown>;
  if (typeof email !== 'string' || typeof password !== 'string' || email.length > 200 || password.length > 200)
    return refuse('bad-input', 'Give your email and password.');
  const address = request.headers.get('x-forwarded-for') ?? '';
  const answer = await signIn(email.trim().toLowerCase(), password, address, request.headers, stays === true);
  return answer.ok ? answer.value : reply(answer);
}
