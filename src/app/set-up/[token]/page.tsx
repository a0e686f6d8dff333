import type { Metadata } from 'next';
import { database } from '@/db/client';
import { serverNow } from '@/server/house/installation';
import { setUp, setUpIsOpen } from '@/server/people/setUp';
import { Empty } from '@/ui/kit/Page';
import { SetUp } from '@/ui/people/SetUp';

export const metadata: Metadata = { title: 'Set up Wuzzen' };

async function begin(token: string, input: unknown) {
  'use server';
  return setUp(database(), token, input, serverNow());
}

export default async function SetUpPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      {setUpIsOpen(database(), token) ? (
        <SetUp begin={begin.bind(null, token)} />
      ) : (
        <Empty title="This address has been used">Sign in with the account that was made.</Empty>
      )}
    </main>
  );
}
