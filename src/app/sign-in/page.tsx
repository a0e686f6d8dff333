import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { actorOf } from '@/server/people/auth';
import { demoPeople } from '@/server/people/demoPeople';
import { SignIn } from '@/ui/people/SignIn';
import { openContext } from '../request';

export const metadata = { title: 'Sign in' };

export default async function SignInPage() {
  if (await actorOf(await headers())) redirect('/');
  return <SignIn people={demoPeople(openContext().db)} />;
}
