import { setUp, setUpIsOpen } from '@/server/people/setUp';
import { Empty } from '@/ui/kit/Page';
import { SetUp } from '@/ui/people/SetUp';
import { openContext } from '../../request';

export const metadata = { title: 'Set up Wuzzen' };

async function begin(token: string, input: unknown) {
  'use server';
  const { db, now } = openContext();
  return setUp(db, token, input, now);
}

export default async function SetUpPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      {setUpIsOpen(openContext().db, token) ? (
        <SetUp begin={begin.bind(null, token)} />
      ) : (
        <Empty title="This address has been used">Sign in with the account that was made.</Empty>
      )}
    </main>
  );
}
