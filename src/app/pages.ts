import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import type { Result } from '@/core/base/result';
import type { Context } from '@/server/house/context';
import type { Served } from '@/server/served';
import type { Commands } from '@/ui/kit/commands';
import { ask } from './ask';
import { pageContext, personOfPage } from './request';

type Sent = Record<string, string | string[] | undefined>;
type Asked = Record<string, string | undefined>;

/** What is asked for twice counts once. */
const once = (sent: Sent): Asked =>
  Object.fromEntries(Object.entries(sent).map(([name, value]) => [name, Array.isArray(value) ? value[0] : value]));

/**
 * A page for whoever is signed in (others are sent to the sign-in page): what it shows, from its context, the ids of its
 * address, and what is asked for after the question mark.
 *
 * @example page<'courseId'>((context, { courseId }) => <PeoplePage … />)
 */
export const page =
  <Ids extends string = never>(
    show: (context: Context, at: Record<Ids, string>, asked: Asked) => ReactNode | Promise<ReactNode>,
  ) =>
  async ({ params, searchParams }: { params: Promise<Record<Ids, string>>; searchParams: Promise<Sent> }) =>
    show(await pageContext(), await params, once(await searchParams));

/** The value of a use-case a page stands on; without it the page does not exist for this person. */
export function orNotFound<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  notFound();
}

/**
 * The use-cases that a page hands to its components, bound to where it is.
 *
 * @example commandsIn({ courseId, bankId }, 'renameCategory', 'moveCategory')
 */
export const commandsIn = <Known extends Record<string, string>, Names extends keyof Served>(
  where: Known,
  ...names: Names[]
): Commands<Names, keyof Known & string> =>
  Object.fromEntries(
    names.map((name) => [name, ask.bind(null, name, { ...where, ...(personOfPage() && { as: personOfPage() }) })]),
  ) as unknown as Commands<Names, keyof Known & string>;
