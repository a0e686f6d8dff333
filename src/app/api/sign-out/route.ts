import { signOut } from '@/server/people/auth';
import { isOwnOrigin, refuse } from '../reply';

export async function POST(request: Request) {
  if (!isOwnOrigin(request.headers)) return refuse('not-allowed', 'This request does not come from a page of Wuzzen.');
  return signOut(request.headers);
}
