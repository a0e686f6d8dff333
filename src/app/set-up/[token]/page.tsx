import { setUp, setUpIsAhead, setUpIsOpen } from '@/server/people/setUp';
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
  const { db } = openContext();
  const isAhead = setUpIsAhead(db);
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      {setUpIsOpen(db, token) ? (
        <SetUp begin={begin.bind(null, token)} />
      ) : (
        <Empty title={isAhead ? 'This address is not right' : 'This address has been used'}>
          {isAhead
            ? 'Copy the whole of the address that the server printed last; each start of it prints a new one.'
            : 'Sign in with the account that was made.'}
        </Empty>
      )}
    </main>
  );
}
