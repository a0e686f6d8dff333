import { contextFor, house } from '@/server/house/context';
import { letIn } from '@/server/people/auth';
import { demoPeople } from '@/server/people/demoPeople';
import { bodyOf, isOwnOrigin, refuse } from '../../reply';

/** Signs in as one of the demo's people. In production there are none, and this address does not exist. */
export async function POST(request: Request) {
  const people = demoPeople(contextFor(house).db);
  if (!people || !isOwnOrigin(request.headers)) return refuse('not-found', 'There is nothing here.');
  const { userId } = ((await bodyOf(request)) ?? {}) as { userId?: unknown };
  const person = people.find((one) => one.userId === userId);
  if (!person) return refuse('not-found', 'There is no such person.');
  return letIn(person.userId, 'stays', request.headers);
}
