import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { actorOf } from '@/server/people/auth';
import { demoPeople } from '@/server/people/demoPeople';
import { SignIn } from '@/ui/people/SignIn';
import { openContext } from '../request';

export const metadata = { title: 'Sign in' };

/** Whoever was sent here from a door goes back there, and nowhere else. */
const wayTo = (sent: string | string[] | undefined): string =>
  typeof sent === 'string' && /^[\w -]{1,40}$/.test(sent) ? `/in?code=${encodeURIComponent(sent)}` : '/';

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ door?: string | string[] }> }) {
  const to = wayTo((await searchParams).door);
  if (await actorOf(await headers())) redirect(to);
  return <SignIn people={demoPeople(openContext().db)} to={to} />;
}
