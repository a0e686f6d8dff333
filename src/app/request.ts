import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { type Result, refused } from '@/core/base/result';
import { type Context, contextFor, house } from '@/server/house/context';
import { logFailure } from '@/server/house/log';
import { actorOf } from '@/server/people/auth';

/** The context of a page; whoever is not signed in is sent to the sign-in page. */
export async function pageContext(): Promise<Context> {
  const sent = await headers();
  const actor = await actorOf(sent);
  if (!actor) redirect('/sign-in');
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
 */
export async function acting<T>(perform: (context: Context) => Result<T> | Promise<Result<T>>): Promise<Result<T>> {
  const sent = await headers();
  const actor = await actorOf(sent);
  if (!actor)
    return refused('not-allowed', 'You are signed out. Sign in again in another tab; what you entered is still here.');
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
