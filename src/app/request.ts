import { headers } from 'next/headers';
import { notFound, redirect } from 'next/navigation';
import type { Result } from '@/core/base/result';
import { type Context, contextFor, house } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';

/** The context of a page or an action; whoever is not signed in is sent to the sign-in page. */
export async function pageContext(): Promise<Context> {
  const actor = await actorOf(await headers());
  if (!actor) redirect('/sign-in');
  return contextFor(actor);
}

/** The value of a use-case a page stands on; without it the page does not exist for this person. */
export function orNotFound<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  notFound();
}

/** The context of a page that is open to everyone. */
export const openContext = (): Context => contextFor(house);
