import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { cache } from 'react';
import { type Result, refused } from '@/core/base/result';
import { type Context, contextFor, house } from '@/server/house/context';
import { logFailure } from '@/server/house/log';
import { actorOf } from '@/server/people/auth';

/** Whose page is being made; nobody's before it is known. One for each request. */
const shownTo = cache((): { userId: string | null } => ({ userId: null }));

/** Whose page is being made, as far as that is known. */
export const personOfPage = (): string | null => shownTo().userId;

/** The context of a page; whoever is not signed in is sent to the sign-in page. */
export async function pageContext(): Promise<Context> {
  const sent = await headers();
  const actor = await actorOf(sent);
  if (!actor) redirect('/sign-in');
  shownTo().userId = actor.userId;
  return contextFor(actor, sent);
}

/** The address under which this page was asked for. */
export const ownOrigin = async (): Promise<string> =>
  process.env.WUZZEN_ORIGIN ?? `http://${(await headers()).get('host') ?? 'localhost'}`;

/** The context of a page that is open to everyone. */
export const openContext = (): Context => contextFor(house);

/**
 * Performs what an instructor's form asks for. Whoever is signed out is told so where they are, and a failure that nobody
 * foresaw is logged under a reference, so that nothing typed into the form is lost.
 *
 * @param as whose page asks, where that is known: nothing is done in the name of whoever signed in there since
 */
export async function acting<T>(
  perform: (context: Context) => Result<T> | Promise<Result<T>>,
  as: string | null = null,
): Promise<Result<T>> {
  const sent = await headers();
  const actor = await actorOf(sent);
  if (!actor)
    return refused('signed-out', 'You are signed out. Sign in again in another tab; what you entered is still here.');
  if (as !== null && as !== actor.userId)
    return refused(
      'signed-out',
      'Somebody else is signed in in this browser now, and nothing was done in their name. Sign in again as yourself; what you entered is still here.',
    );
  const context = contextFor(actor, sent);
  try {
    return await perform(context);
  } catch (why) {
    logFailure(why, context.requestId, 'What a page asked for failed.');
    return refused(
      'busy',
      `Something went wrong on the server; nothing was changed and what you entered is still here. Reference: ${context.requestId}.`,
    );
  }
}
